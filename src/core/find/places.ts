/** Pages of Avrix as people look for them: their words, what else they may be called, and their path in a business. */
export const places: readonly (readonly [words: string, alsoKnownAs: string, path: string])[] = [
  ['The line', 'home overview losses', ''],
  ['Naming plan', 'plan tags utm values', '/plan'],
  ['Campaigns', 'plan register budget', '/plan/campaigns'],
  ['Campaign names', 'plan parts pattern', '/plan/names'],
  ['Do they agree?', 'plan channel map medium crm campaign types', '/plan/channels'],
  ['Sources', 'plan aliases', '/plan/sources'],
  ['Off plan', 'plan unknown values', '/plan/off-plan'],
  ['Share the plan', 'plan print spreadsheet json import', '/plan/share'],
  ['Make a link', 'links utm tagged', '/links'],
  ['Make many links', 'links grid spreadsheet', '/links/many'],
  ['Links made', 'links register', '/links/made'],
  ['Short links', 'links redirect qr', '/links/short'],
  ['Page checks', 'links redirects snippet landing', '/links/checks'],
  ['Faults', 'capture losses cookies', '/capture'],
  ['Install', 'snippet script developer', '/capture/install'],
  ['Kept', 'capture cookies days keep rules click id touches carry names', '/capture/kept'],
  ['Forms seen', 'capture hidden fields', '/capture/forms'],
  ['Fields', 'capture fill rules hidden fields', '/capture/fields'],
  ['Swap tables', 'capture codes words', '/capture/swaps'],
  ['Elsewhere', 'capture places outside frames calendars checkouts', '/capture/elsewhere'],
  ['Not customers', 'capture staff bots office networks', '/capture/no-customer'],
  ['Events', 'cues conversions wires', '/events'],
  ['Readings', 'events values', '/events/readings'],
  ['Events told', 'events refused waiting destinations', '/events/told'],
  ['Leads', 'enquiries people', '/leads'],
  ['Bring leads in', 'leads import csv list fair by hand add', '/leads/import'],
  ['Segments', 'leads filter conditions saved shared', '/leads/segments'],
  ['Routines', 'leads follow up emails automation reminders', '/leads/routines'],
  ['Emails', 'leads routines letters templates', '/leads/emails'],
  ['How emails are sent', 'mail server smtp replies unsubscribe bounces', '/leads/emails/set-up'],
  ['Answers', 'leads quality unanswered disqualified working hours time to first answer', '/leads/answers'],
  ['Calls', 'leads telephone phone numbers callers missed import', '/leads/calls'],
  ['How calls come in', 'telephone system webhook secret reference code missed', '/leads/calls/set-up'],
  ['Lead forms', 'leads platforms own forms fetched', '/leads/forms'],
  ['Records', 'leads people merged duplicates shared mailboxes deleted skipped stages', '/leads/records'],
  ['CRM', 'leads mapping stages fields', '/leads/crm'],
  ['Written back', 'leads crm fields words sales mapping slots', '/leads/writes'],
  ['Repair', 'leads crm lost values put back', '/leads/repair'],
  ['Clicks', 'strands click ids', '/strands'],
  ['Report-backs', 'outcomes told platforms', '/report-backs'],
  ['Postbacks', 'refund chargeback renewal subscription payment sender', '/report-backs/postbacks'],
  ['Queue', 'report-backs held refused waiting withdrawn tell again', '/report-backs/queue'],
  ['Connections', 'accounts websites platforms crm', '/connections'],
  ['Own platforms', 'connections destination http', '/connections/platforms'],
  ['Own CRM', 'connections records', '/connections/crms'],
  ['Not live', 'draft release', '/not-live'],
  ['Releases', 'history take back', '/releases'],
  ['Saved rehearsals', 'walk expectations', '/rehearsals'],
  ['Change log', 'who changed what', '/changes'],
  ['People', 'roles invite members rights', '/people'],
  ['API tokens', 'programs', '/tokens'],
  ['Your settings', 'theme single keys password', '/you'],
];

/** The pages that a text names, by their words first. @param most how many */
export function findPlaces(text: string, most: number): (typeof places)[number][] {
  const wanted = text.trim().toLowerCase();
  if (wanted === '') return [];
  const byWords = places.filter(([words]) => words.toLowerCase().includes(wanted));
  const others = places.filter((one) => !byWords.includes(one) && one[1].includes(wanted));
  return [...byWords, ...others].slice(0, most);
}

import type { Consent, FormSentHit, Hit } from '../capture/schema';
import { hostOf, isUnder, splitAddress } from '../capture/address';
import { listed } from '../listed';
import { counted } from '../counted';
import { writeAmount } from '../outcomes/worth';
import { platformName } from '../platforms/links';
import { touchWords } from '../reasons/touch-words';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import { originWords } from '../releases';
import type { RecordedHit } from '../strands/visitor';
import { makePretendBrowser } from './browser';
import { eventsAt } from './events-at';
import { pretendRelease, type KnownWorld } from './known';
import { readLine, type Step } from './steps';
import type { Trait } from './traits';
import {
  absolute,
  clicked,
  findForm,
  findPress,
  followLinks,
  originOf,
  pageKey,
  presumedForm,
  presumedPress,
} from './where-to';

/** Something that a step did, or did not. `fault`: values are lost by it. Values stand between backticks. */
export interface Note {
  kind: 'did' | 'went_off' | 'quiet' | 'told' | 'fault';
  text: string;
}

/** A line of a rehearsal with what it did; `problem`: why it could not be walked, '' where it was. */
export interface WalkedLine {
  line: string;
  /** ms, when it happened. */
  at: number;
  problem: string;
  notes: Note[];
}

/** A form that was sent, with how the CRM's deal of it moved since. */
export interface Sending {
  hit: FormSentHit;
  moves: { stage: string; at: number }[];
}

/** Where a pretend visitor went and what its browser told; what follows from it is worked out by `rehearse`. */
export interface Walk {
  lines: WalkedLine[];
  hits: RecordedHit[];
  /** Which line each hit belongs to, by its ID. */
  lineOf: Map<string, WalkedLine>;
  sendings: Sending[];
  /** ms, at the end. */
  now: number;
}

/** How long (ms) a visitor takes from one step to the next. */
const between = 20_000;
/** A wait up to this (ms) is spent on the page that is open. */
const longestStay = 1_800_000;

const numberOf = (text: string) => text.padStart(12, '0');

/**
 * Walks a pretend visitor through the lines, by the release's rules, in a world as it was really seen. Nothing is sent.
 * @param begins ms
 */
export function walk(
  texts: readonly string[],
  has: readonly Trait[],
  content: ReleaseContent,
  world: KnownWorld,
  begins: number,
): Walk {
  const { capture: rules } = content;
  let made = 0;
  const newId = () => `00000000-0000-7000-8000-${numberOf((++made).toString(16))}`;
  const browser = makePretendBrowser(rules, has, 0, newId);
  const walked: Walk = { lines: [], hits: [], lineOf: new Map(), sendings: [], now: begins };
  const judge = eventsAt(content, world);
  const isOwn = (host: string) => rules.touch.ownHosts.some((own) => isUnder(host, own));
  let consent: Consent | undefined = rules.consent.required ? { measurement: 'yes', advertising: 'yes' } : undefined;
  if (has.includes('no_consent')) consent = { measurement: 'no', advertising: 'no' };
  browser.agree(consent);
  let line!: WalkedLine;
  let isOpen = false;
  let clicks = 0;

  const say = (text: string, kind: Note['kind'] = 'did') => void line.notes.push({ kind, text });
  const isSilent = () => consent?.measurement === 'no' || world.withoutSnippet.includes(pageKey(browser.page.address));
  const record = (hit: Hit) => {
    walked.hits.push({ hit, at: hit.at, mark: '', browser: '' });
    walked.lineOf.set(hit.id, line);
  };
  /** Tells a hit, and has events judged by it. */
  const tell = (hit: Hit, field?: (name: string) => string) => {
    record(hit);
    const { hits, notes } = judge(hit, browser.keptNow(hit.at), newId, field);
    line.notes.push(...notes);
    hits.forEach(record);
  };

  function open(address: string, referrer: string, isOutside: boolean) {
    const stripped = browser.goTo(address, referrer, isOutside);
    isOpen = true;
    if (stripped.length > 0) say(`The browser took ${listed(stripped.map(quoteValue))} out of the address.`, 'fault');
    if (isSilent()) {
      const why = consent?.measurement === 'no' ? 'This visitor said no' : 'The snippet is not on this page';
      say(`${why}: nothing of this is kept or told.`, 'fault');
      return;
    }
    const { hit, because, cleaned, hadEnded } = browser.arrive(walked.now);
    if (hadEnded) say('Cookies of this browser had ended since the page before.', 'fault');
    if (cleaned.length > 0)
      say(
        `${counted(cleaned.length, 'value', 'values')} with personal data ${cleaned.length === 1 ? 'is' : 'are'} taken out.`,
      );
    const { last, clicks } = browser.keptNow(hit.at);
    const isNew = last?.at === hit.at;
    const from = isNew ? `: ${originWords(pretendRelease(content), last.source, last.medium, last.referrer)}` : '';
    say(`${touchWords[because]}${from}.`);
    const click = clicks.find(({ at }) => at === hit.at);
    if (click)
      say(`Keeps the click ID of ${platformName(click.platform, content.platforms)}, ${quoteValue(click.clickId)}.`);
    if (has.includes('blocks_storage'))
      say('The browser keeps no cookie: the values are gone with this page.', 'fault');
    tell(hit);
  }

  const noAddress = (text: string): string =>
    world.website
      ? `${quoteValue(text)} is no address that can be opened.`
      : 'No website is known yet: add yours under Connections.';

  function arrive(step: Extract<Step, { does: 'arrive' }>): string {
    const wanted = absolute(step.address, world);
    if (!wanted) return noAddress(step.address);
    clicks += 1;
    const ad = clicked(wanted, content, `Rehearsed${clicks}`);
    const { address, notes } = followLinks(ad.address, world);
    line.notes.push(...ad.notes, ...notes);
    if (!isOwn(hostOf(address))) return `${quoteValue(hostOf(address))} is none of the business’s websites.`;
    open(address, step.from ? absolute(step.from, world) || `https://${step.from}/` : '', true);
    return '';
  }

  function comeBack(to: string): string {
    const address = to ? absolute(to, world) : browser.page.address.split('?')[0] || absolute('/', world);
    if (!address) return noAddress(to);
    if (!isOwn(hostOf(address))) return `${quoteValue(hostOf(address))} is none of the business’s websites.`;
    open(address, '', true);
    return '';
  }

  function go(to: string): string {
    const address = to.startsWith('/') ? originOf(browser.page.address) + to : absolute(to, world);
    if (!isOwn(hostOf(address))) return `${quoteValue(hostOf(address))} is none of the business’s websites.`;
    open(address, browser.page.address, false);
    return '';
  }

  function press(what: string): string {
    const path = splitAddress(browser.page.address)?.path ?? '';
    const found = findPress(what, path, world);
    if (!found) {
      const here = world.presses.filter((one) => one.path === path).flatMap(({ press: { text } }) => text || []);
      const known = [...new Set(here)].slice(0, 5).map(quoteValue);
      const there = known.length > 0 ? `; there was ${listed(known)}` : '';
      say(`Nobody pressed ${quoteValue(what)} on ${quoteValue(path)} lately${there}. It is taken as it is written.`);
    } else if (found.path !== path)
      say(`This is on ${quoteValue(found.path)}; it was not seen on ${quoteValue(path)}.`, 'quiet');
    const pressed = found?.press ?? presumedPress(what);
    if (!isSilent()) tell(browser.hitOf(walked.now, { kind: 'pressed', press: pressed }));
    const { link } = pressed;
    if (link && isOwn(hostOf(link))) open(link, browser.page.address, false);
    else if (link) say(`Leaves for ${quoteValue(hostOf(link) || link)}.`);
    return '';
  }

  function send(step: Extract<Step, { does: 'send' }>): string {
    const path = splitAddress(browser.page.address)?.path ?? '';
    const seen = findForm(step.form, path, world);
    if (!seen) {
      const here = world.forms.filter((one) => one.path === path).map(({ form }) => quoteValue(form));
      const there = here.length > 0 ? `; on this page there is ${listed(here)}` : '';
      say(`No form ${quoteValue(step.form)} was seen yet${there}. It is taken to have the fields that rules fill.`);
    } else if (seen.path !== path)
      say(`This form was last seen on ${quoteValue(seen.path)}, not on ${quoteValue(path)}.`, 'quiet');
    const known = seen ?? presumedForm(step.form, path, rules);
    if (isSilent()) {
      say('The form is sent without any of the values: they were never kept.', 'fault');
      return '';
    }
    const fills = browser.fill(known, walked.now);
    const isFollowed = rules.forms.some(({ name }) => name === known.form);
    const fields = known.fields.map(({ name }) => name);
    const hit = browser.hitOf(walked.now, {
      kind: 'form_sent',
      form: known.form,
      leadToken: newId(),
      fields,
      fills,
    }) as FormSentHit;
    const filled = fills.filter(({ state }) => state === 'filled');
    say(
      filled.length > 0
        ? `Carries ${listed(filled.map(({ field, value }) => `${quoteValue(value)} in ${quoteValue(field)}`))}.`
        : 'Carries none of the values.',
      filled.length > 0 ? 'did' : 'fault',
    );
    for (const { state, field, near } of fills)
      if (state === 'not_found') say(`There is no field ${quoteValue(field)} in it.`, 'fault');
      else if (state === 'near') say(`It has ${quoteValue(near)}, the rule fills ${quoteValue(field)}.`, 'fault');
    if (!isFollowed) {
      say('No rule follows this form: no enquiry comes of it.', 'fault');
      return '';
    }
    if (!fields.includes('avx_lead'))
      say('It has no field `avx_lead`: its record is joined by its click ID or mail, or not at all.', 'quiet');
    walked.sendings.push({ hit, moves: [] });
    tell(hit, (name) => step.fields.find(([one]) => one === name)?.[1] ?? '');
    return '';
  }

  function stay(ms: number) {
    walked.now += ms;
    if (isOpen && ms <= longestStay && !isSilent()) {
      const { notes, hits } = judge.stayed(
        browser.hitOf(walked.now, { kind: 'consent' }),
        browser.keptNow(walked.now),
        newId,
        ms / 1000,
      );
      line.notes.push(...notes);
      hits.forEach(record);
    }
    if (ms > longestStay) isOpen = false;
  }

  function stage(wanted: string): string {
    const { crm } = content;
    if (!crm) return 'No CRM is connected, so no deal has stages.';
    const all = [...crm.stages.inOrder, ...crm.stages.ended];
    const found = all.find((one) => one.toLowerCase() === wanted.toLowerCase());
    if (!found) return `There is no stage ${quoteValue(wanted)}; there are ${listed(all)}.`;
    const sending = walked.sendings.at(-1);
    if (!sending) return 'No form was sent before, so there is no deal to move.';
    sending.moves.push({ stage: found, at: walked.now });
    return '';
  }

  let orders = 0;
  function order({ amount, currency, number }: Extract<Step, { does: 'order' }>): string {
    const [rule] = rules.orders;
    if (!rule) return 'No rule says where pages name an order, so none is seen.';
    if (isSilent()) {
      say('The order is not seen: this page tells nothing.', 'fault');
      return '';
    }
    orders += 1;
    const known = Object.entries(world.orderAmounts);
    const field = content.outcomes.flatMap(({ worth }) =>
      worth.kind === 'realised' && 'field' in worth ? worth.field : [],
    )[0];
    const amounts = amount
      ? [{ name: field ?? known[0]?.[0] ?? 'amount', amount }]
      : known.map(([name, money]) => ({ name, amount: writeAmount(money) }));
    const money = currency || known[0]?.[1].currency || world.currency;
    const named = number || `R-${orders}`;
    if (!amount && known.length > 0) say('Worth what the newest order was.', 'quiet');
    tell(browser.hitOf(walked.now, { kind: 'ordered', number: named, currency: money, amounts }));
    return '';
  }

  function carryOut(step: Step): string {
    if (step.does === 'arrive') return arrive(step);
    if (step.does === 'wait') {
      stay(step.ms);
      return '';
    }
    if (step.does === 'stage') return stage(step.stage);
    if (step.does === 'refund') {
      say('No rule takes an order back yet: what a platform was told stays as it is there.', 'fault');
      return '';
    }
    if (step.does === 'come back') return comeBack(step.to);
    if (!browser.page.address || !isOpen) return 'Nobody is on a page here: arrive or come back first.';
    if (step.does === 'go') return go(step.to);
    if (step.does === 'press') return press(step.what);
    if (step.does === 'send') return send(step);
    return order(step);
  }

  const read = texts.map((text) => ({ text, read: readLine(text) }));
  const lastSaid = read.findLastIndex(({ read: one }) => 'step' in one && /send|order/.test(one.step.does));
  read.forEach(({ text, read: one }, at) => {
    line = { line: text, at: walked.now, problem: '', notes: [] };
    walked.lines.push(line);
    if ('problem' in one) line.problem = one.problem;
    else {
      line.problem = carryOut(one.step);
      line.at = Math.max(line.at, walked.now);
      walked.now += between;
    }
    const isLast = at === (lastSaid < 0 ? read.length - 1 : lastSaid);
    if (isLast && has.includes('says_no_later') && walked.hits.length > 0) {
      consent = { measurement: 'no', advertising: 'no' };
      browser.agree(consent);
      record(browser.hitOf(walked.now, { kind: 'consent' }));
      browser.clear(walked.now);
      say('Then this visitor says no: what was kept is cleared, and platforms may not be told.', 'fault');
    }
  });
  return walked;
}

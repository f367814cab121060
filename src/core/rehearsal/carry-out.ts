import { hostOf, splitAddress } from '../capture/address';
import type { FormSentHit } from '../capture/schema';
import { listed } from '../listed';
import { readAmount, writeAmount } from '../outcomes/worth';
import { quoteValue } from '../quote-value';
import type { KnownWorld } from './known';
import type { Step } from './steps';
import type { Walker } from './walker';
import { absolute, clicked, findForm, findPress, followLinks, originOf, presumedForm, presumedPress } from './where-to';

/** Carries one step out. @returns why it could not be, '' where it was */
export function carryOut(walker: Walker, step: Step): string {
  if (step.does === 'arrive') return arrive(walker, step);
  if (step.does === 'wait') {
    walker.stay(step.ms);
    return '';
  }
  if (step.does === 'stage') return stage(walker, step.stage);
  if (step.does === 'refund') return refund(walker, step.amount);
  if (step.does === 'come back') return comeBack(walker, step.to);
  if (!walker.isOn()) return 'Nobody is on a page here: arrive or come back first.';
  if (step.does === 'go') return go(walker, step.to);
  if (step.does === 'press') return press(walker, step.what);
  if (step.does === 'send') return send(walker, step);
  return order(walker, step);
}

const noAddress = (text: string, world: KnownWorld): string =>
  world.website
    ? `${quoteValue(text)} is no address that can be opened.`
    : 'No website is known yet: add yours under Connections.';

function arrive(walker: Walker, step: Extract<Step, { does: 'arrive' }>): string {
  const { content, world, note } = walker;
  const wanted = absolute(step.address, world);
  if (!wanted) return noAddress(step.address, world);
  const ad = clicked(wanted, content, walker.newClickId());
  const { address, notes } = followLinks(ad.address, world);
  note([...ad.notes, ...notes]);
  return walker.openOwn(address, step.from ? absolute(step.from, world) || `https://${step.from}/` : '', true);
}

function comeBack({ browser, world, openOwn }: Walker, to: string): string {
  const address = to ? absolute(to, world) : browser.page.address.split('?')[0] || absolute('/', world);
  if (!address) return noAddress(to, world);
  return openOwn(address, '', true);
}

function go({ browser, world, openOwn }: Walker, to: string): string {
  const address = to.startsWith('/') ? originOf(browser.page.address) + to : absolute(to, world);
  return openOwn(address, browser.page.address, false);
}

function press({ browser, world, walked, say, tell, isSilent, isOwn, openOwn }: Walker, what: string): string {
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
  if (link && isOwn(link)) return openOwn(link, browser.page.address, false);
  if (link) say(`Leaves for ${quoteValue(hostOf(link) || link)}.`);
  return '';
}

function send(walker: Walker, step: Extract<Step, { does: 'send' }>): string {
  const { browser, world, walked, say, tell, isSilent, newId } = walker;
  const { capture: rules } = walker.content;
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

function stage({ walked, content }: Walker, wanted: string): string {
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

/** Gives back the newest order, or an amount of it. */
function refund({ walked }: Walker, amount: string): string {
  const ordered = walked.hits.map(({ hit }) => hit).findLast((hit) => hit.kind === 'ordered');
  if (!ordered) return 'Nothing was ordered before, so nothing can be given back.';
  const back = amount === '' ? null : readAmount(amount, ordered.currency);
  if (amount !== '' && !back) return `${quoteValue(amount)} is no amount in ${ordered.currency}.`;
  const number = `refund ${walked.refunds.length + 1}`;
  walked.refunds.push({
    hit: ordered.id,
    notice: { number, payment: '', at: walked.now, cause: 'refund', says: { back } },
  });
  return '';
}

function order(walker: Walker, { amount, currency, number }: Extract<Step, { does: 'order' }>): string {
  const { browser, content, world, walked, say, tell, isSilent } = walker;
  const [rule] = content.capture.orders;
  if (!rule) return 'No rule says where pages name an order, so none is seen.';
  if (isSilent()) {
    say('The order is not seen: this page tells nothing.', 'fault');
    return '';
  }
  const known = Object.entries(world.orderAmounts);
  const field = content.outcomes.flatMap(({ worth }) =>
    worth.kind === 'realised' && 'field' in worth ? worth.field : [],
  )[0];
  const amounts = amount
    ? [{ name: field ?? known[0]?.[0] ?? 'amount', amount }]
    : known.map(([name, money]) => ({ name, amount: writeAmount(money) }));
  const money = currency || known[0]?.[1].currency || world.currency;
  const named = number || `R-${1 + walked.hits.filter(({ hit }) => hit.kind === 'ordered').length}`;
  if (!amount && known.length > 0) say('Worth what the newest order was.', 'quiet');
  tell(browser.hitOf(walked.now, { kind: 'ordered', number: named, currency: money, amounts }));
  return '';
}

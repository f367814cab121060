import {
  arrive,
  decideFills,
  piiIn,
  readOf,
  splitReferrer,
  type ArrivedHit,
  type Consent,
  type Hit,
  type Kept,
} from '../core/capture';
import { now } from './clock';
import { keep, keptNow } from './cookies';
import { fieldNames, fillForm, isFollowed, makeTokens } from './forms';
import { lookAround, looksItself } from './look';
import { fieldsOf, nameOf } from './natives';
import { watchAddress } from './navigation';
import { makeOutbox } from './outbox';
import type { Hearing, Host, Part, Rest } from './part';
import { placeOf } from './place';
import type { Tools } from './tools';

export type Arrival = ReturnType<typeof placeOf> & { at: number; navigation: ArrivedHit['navigation'] };

/**
 * Works on one page: keeps what arrived, reports it, fills forms now and at the moment of sending, lets the parts work.
 *
 * @param before what was kept when the page opened
 * @param restored the place outside that this page's values came back from, '' for none
 */
export function work(
  tools: Tools,
  parts: Part[],
  arrival: Arrival,
  before: Kept,
  consentNow: () => Consent | undefined,
  restored = '',
) {
  const { setup, listen, later, newId } = tools;
  const { rules } = setup;
  const outbox = makeOutbox(tools);
  const tokens = makeTokens(newId);
  const around = lookAround(tools);
  let kept = before;
  let works = true;
  let ended = false;
  const held = () => (works ? keptNow(setup) : kept);

  /** Something to tell; with it what the cookies hold, not what should be in them. */
  const hitOf = (rest: Rest, at = now(), { first, last, clicks, values } = held(), place = placeOf(setup, parts)) => {
    const { id, visitId, noCustomer } = kept.visitor!;
    // What is undefined does not stand in JSON.
    return {
      id: newId(at),
      at,
      release: setup.release,
      visitor: id,
      visit: visitId,
      address: place.address.slice(0, 4000),
      referrer: place.referrer.slice(0, 4000),
      pii: place.found.slice(0, 20),
      consent: consentNow(),
      noCustomer: noCustomer || undefined,
      kept: { works, first, last, clicks, values },
      ...rest,
    } as Hit;
  };
  const hearing: Hearing = { told: [], pressed: [], sent: [] };
  const tell = (...what: Parameters<typeof hitOf>) => {
    outbox.put(hitOf(...what));
    hearing.told.forEach((hear) => hear(what[0]));
  };

  const arriveAt = (arrival: Arrival) => {
    const { at, navigation } = arrival;
    const { decision, ...arrived } = arrive(kept, arrival, rules, { visitor: newId(at), visit: newId(at) });
    kept = arrived.kept;
    const holds = keep(kept, at, setup);
    works = holds.visitor !== null;
    const lines = document.querySelectorAll(`script[src$="/b/${setup.business}.js"]`).length;
    const rest = { navigation, why: decision.because, lines: lines > 1 ? lines : undefined };
    tell({ kind: 'arrived', ...rest, restored: restored || undefined } as Rest, at, holds, arrival);
  };
  arriveAt(arrival);

  const prepare = (form: HTMLFormElement) => {
    tokens.ready(form);
    return fillForm(form, held(), rules);
  };
  const sent = (form: HTMLFormElement) => {
    const leadToken = tokens.take(form);
    const fills = prepare(form);
    sentAs(nameOf(form), leadToken, fieldNames(form), fills, form);
  };
  const sentAs: Host['sentAs'] = (form, leadToken, fields, fills, element) => {
    if (isFollowed(form, rules)) tell({ kind: 'form_sent', leadToken, form, fields: fields.slice(0, 100), fills });
    hearing.sent.forEach((hear) => hear(form, leadToken, element));
  };
  const { watch, onLooked, onRoot, onEnd, lookAgain } = around;
  const decide: Host['decide'] = (form) => decideFills(form, held(), rules);
  const formLooks: Parameters<Host['onForm']>[0][] = [];
  const host: Host = {
    onForm: (look) => void formLooks.push(look),
    read: (reading, of) => readOf(reading, of, held()),
    kept: held,
    tell,
    hearing,
    split: splitReferrer,
    hitOf,
    isPersonal: piiIn,
    watch,
    onLooked,
    onRoot,
    onEnd,
    lookAgain,
    looksItself,
    decide,
    prepare,
    sent,
    sentAs,
    tokens,
    nameOf,
    fieldsOf,
  };

  watch('form', (element) => {
    const form = element as HTMLFormElement;
    const fills = prepare(form);
    formLooks.forEach((look) => look(form, fills));
  });
  onRoot((root) =>
    // A frame that has come to run the snippet itself tells of its own forms.
    onEnd(listen(root, 'submit', ({ target }) => !looksItself(root) && sent(target as HTMLFormElement))),
  );
  // In a task of its own, so that none is long.
  later(() => {
    if (ended) return;
    for (const part of parts) part.work?.(host);
    around.attend(document);
  });
  onEnd(
    watchAddress(tools, (from, navigation) => {
      kept = held();
      restored = '';
      arriveAt({ ...placeOf(setup, parts, from), at: now(), navigation });
      lookAgain();
    }),
  );
  return {
    /** The page goes away: sends what was not sent. */
    leave: outbox.beacon,
    /** Says that what somebody agreed to has changed. */
    tellConsent() {
      void outbox.sendNow(hitOf({ kind: 'consent' }));
    },
    end() {
      ended = true;
      around.end();
    },
  };
}

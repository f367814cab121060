import { describe, expect, it } from 'vitest';
import { start } from '../capture/rules.fixture';
import { freshCue, freshEvent } from '../events/words';
import type { OutcomeRule } from '../outcomes';
import type { ReleaseContent } from '../releases/schema';
import { factsOf, heldAgainst, isKept } from './facts';
import { nothingKnown, withoutMoney } from './known';
import { content, world } from './rehearsal.fixture';
import { reachedOf } from './follow';
import { rehearse } from './rehearse';
import { rehearsalSentence } from './sentence';
import type { Trait } from './traits';

const ad = 'arrive /fleet?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=winterproof';
const walkOf = (lines: string[], traits: Trait[] = [], rules: ReleaseContent = content) =>
  rehearse(lines, traits, rules, world, start);
const titleOf = (...of: Parameters<typeof walkOf>) => rehearsalSentence(walkOf(...of), (form) => form).title;
const stopOf = (...of: Parameters<typeof walkOf>) => {
  const { followed } = walkOf(...of);
  return followed && reachedOf(followed).stop;
};
const saidIn = (...of: Parameters<typeof walkOf>) =>
  walkOf(...of).lines.map(({ notes, problem }) => [...notes.map(({ text }) => text), problem].join(' '));
const toAssessed = [ad, 'press Ride one', 'send test-ride bikes=3', 'wait 9 days', 'stage Fleet assessed'];

describe('a rehearsal', () => {
  it('follows a click ID hop by hop to what its platform would be told', () => {
    const rehearsed = walkOf(toAssessed);
    expect(titleOf(toAssessed)).toBe('Every hop holds: Quillsearch would be told FLT-QUAL.');
    expect(rehearsed.tellings.map(({ text }) => text)).toEqual([
      'Quillsearch, Larkmoor is told `FLT-QUAL` by the click ID, worth 540.00 GBP, to bid on, 1 hour later.',
      'Meterhall is told `fleet/ask/3` by the server.',
    ]);
    expect(rehearsed.tellings[0]!.request!.body).toMatchObject({
      rows: [{ visit_key: 'Rehearsed1', outcome: 'FLT-QUAL' }],
    });
    expect(rehearsed.followed!.values.find(({ value }) => value === 'click_id')!.cells).toMatchObject({
      kept: { state: 'same' },
      in_crm: { state: 'same', value: 'Rehearsed1' },
    });
  });

  it('says where a form’s field is not the one that the CRM reads', () => {
    const lines = [ad, 'go /fleet/call-back', 'send call-back', 'stage Fleet assessed'];
    expect(stopOf(lines)).toMatchObject({ hop: 'form_sent', state: 'lost', reason: { code: 'form_field_near' } });
    expect(saidIn(lines)[2]).toContain('It has `click_ref`, the rule fills `click_id`.');
    expect(saidIn(lines)[3]).toContain('is not told `FLT-QUAL`: no click ID in the CRM');
  });

  it('cuts what a field of the CRM cuts', () => {
    const lines = [ad.replace('winterproof', 'uk-27q1-fleet-winterproof'), 'go /fleet/test-ride', 'send test-ride'];
    expect(walkOf(lines).followed!.values.find(({ value }) => value === 'campaign')!.cells.in_crm).toMatchObject({
      state: 'changed',
      how: 'cut at 18 characters',
    });
  });

  it.each<[string, Trait[], string[], string]>([
    ['that takes click IDs out keeps the campaign', ['strips_click_ids'], toAssessed, 'The browser took `qsid` out'],
    [
      'that ends cookies after 7 days forgets the click',
      ['caps_cookies'],
      [ad, 'wait 9 days', 'come back to /fleet/test-ride', 'send test-ride'],
      'Cookies of this browser had ended',
    ],
    ['that keeps nothing loses it at once', ['blocks_storage'], toAssessed, 'The browser keeps no cookie'],
    ['whose owner says no tells nothing', ['no_consent'], toAssessed, 'This visitor said no'],
  ])('in a browser %s', (_, traits, lines, said) => {
    expect(saidIn(lines, traits).join(' ')).toContain(said);
    const { tellings } = walkOf(lines, traits);
    expect(tellings.filter(({ outcome, state }) => outcome && state === 'told')).toEqual([]);
  });

  it('keeps a stripped click ID where a carry name brings it', () => {
    const lines = [`${ad}&lark_key=Q7&qsid=Q7`, ...toAssessed.slice(1)];
    expect(titleOf(lines, ['strips_click_ids'])).toContain('would be told FLT-QUAL');
  });

  it('of a browser that caps cookies ends well where the server sets them', () => {
    const { keep } = content.capture;
    const served = { ...content, capture: { ...content.capture, keep: { ...keep, setBy: 'server' as const } } };
    const lines = [ad, 'wait 9 days', 'come back to /fleet/test-ride', 'send test-ride', 'stage Fleet assessed'];
    expect(titleOf(lines, ['caps_cookies'], served)).toContain('would be told FLT-QUAL');
    expect(titleOf(lines, ['caps_cookies'])).toBe('Where this enquiry came from is not known.');
  });

  it('says no later: what was sent is counted, and platforms may not be told', () => {
    expect(stopOf(toAssessed, ['says_no_later'])).toMatchObject({
      hop: 'told',
      state: 'waiting',
      reason: { code: 'no_consent' },
    });
  });

  it('counts three impatient orders as those that they are', () => {
    const lines = [ad, 'order 20 GBP as L-1', 'order 20 GBP as L-1', 'order 20 GBP as L-2'];
    expect(walkOf(lines).events).toEqual({ order_paid: 2 });
    expect(saidIn(lines)[2]).toContain('was counted for this order already');
  });

  it('tells what an event and a page of the walk are counted for, once for their click', () => {
    const [usual] = content.outcomes;
    const worth = (minor: number) => ({ kind: 'fixed' as const, amount: { minor, currency: 'GBP' } });
    const paid: OutcomeRule = {
      ...usual!,
      code: 'SHP-SEEN',
      reachedBy: { kind: 'event', event: 'order_paid', conditions: [] },
      worth: worth(500),
      countedOnceFor: 'click',
    };
    const welcomed: OutcomeRule = {
      ...paid,
      code: 'CAR-SEEN',
      reachedBy: { kind: 'page', test: 'equals', text: '/care' },
      worth: worth(200),
    };
    const tells = (outcome: string) => ({ ...content.telling[0]!, outcome, delayMinutes: 0 });
    const rules: typeof content = {
      ...content,
      outcomes: [...content.outcomes, welcomed, paid],
      telling: [...content.telling, tells('CAR-SEEN'), tells('SHP-SEEN')],
    };
    const told = (walked: typeof content) =>
      walkOf([ad, '/care', '/care', 'order 20 GBP as L-1'], [], walked).tellings.flatMap(({ outcome, text }) =>
        outcome.endsWith('-SEEN') ? [text] : [],
      );
    expect(told(rules)).toEqual([
      expect.stringContaining('is told `CAR-SEEN` by the click ID, worth 2.00 GBP'),
      expect.stringContaining('is told `SHP-SEEN` by the click ID, worth 5.00 GBP'),
    ]);
  });

  describe('money that is given back', () => {
    const paid: OutcomeRule = {
      ...content.outcomes[0]!,
      code: 'SHP-PAID',
      reachedBy: { kind: 'order' },
      worth: { kind: 'realised', field: 'total', less: [] },
      countedOnceFor: 'order',
    };
    const telling = { ...content.telling[0]!, outcome: 'SHP-PAID', delayMinutes: 60 };
    const rules = { ...content, outcomes: [...content.outcomes, paid], telling: [...content.telling, telling] };
    const toldOf = (lines: string[], change: Partial<typeof telling> = {}) =>
      walkOf([ad, ...lines], [], { ...rules, telling: [{ ...telling, ...change }] }).tellings.flatMap(
        ({ outcome, text, request, state }) => (outcome === 'SHP-PAID' ? [{ text, request, state }] : []),
      );

    it('before an account is told leaves nothing to be told', () => {
      const [one, ...others] = toldOf(['order 20 GBP as L-1', 'refund']);
      expect([one!.state, one!.text, others]).toEqual([
        'not_told',
        'Quillsearch, Larkmoor is not told `SHP-PAID`: taken back before it was told, by a refund.',
        [],
      ]);
    });

    it('after it is told is corrected to what is left, at the line that gives it back', () => {
      const lines = ['order 20 GBP as L-1', 'wait 2 days', 'refund 5'];
      const [told, corrected] = toldOf(lines);
      expect([told!.state, corrected!.text]).toEqual([
        'told',
        'Quillsearch, Larkmoor is corrected: `SHP-PAID` is worth 15.00 GBP now.',
      ]);
      expect(corrected!.request).toMatchObject({ path: '/api/outcomes/changes', body: { rows: [{ worth: 15 }] } });
      expect(saidIn([ad, ...lines], [], rules).at(-1)).toContain('is corrected');
      // It is told once all the same.
      const facts = factsOf(walkOf([ad, ...lines], [], rules));
      expect(facts).toContainEqual({ key: 'told SHP-PAID quillsearch', is: '1' });
      expect(toldOf(['order 20 GBP as L-1', 'wait 70 days', 'refund'])[1]!.text).toContain('is not corrected');
    });

    it('is told and corrected by the part of the worth that the telling says', () => {
      const [told, corrected] = toldOf(['order 20 GBP as L-1', 'wait 2 days', 'refund 5'], { percent: 50 });
      expect([told!.text, corrected!.text]).toEqual([
        'Quillsearch, Larkmoor is told `SHP-PAID` by the click ID, worth 10.00 GBP, to bid on, 1 hour later.',
        'Quillsearch, Larkmoor is corrected: `SHP-PAID` is worth 7.50 GBP now.',
      ]);
      const [first] = toldOf(['order 20 GBP as L-1'], { firstLook: true });
      expect(first!.text).toContain('the first ones once somebody looked at them');
    });

    it('that is no amount is named', () => {
      const { lines } = walkOf([ad, 'order 20 GBP as L-1', 'refund 1.234'], [], rules);
      expect(lines[2]!.problem).toBe('`1.234` is no amount in GBP.');
    });
  });

  it('goes by short links and redirects, and says where a query is dropped', () => {
    expect(saidIn(['arrive /go/rain?utm_source=letter'])[0]).toContain(
      'sent on to `http://larkmoor.localhost/fleet?utm_campaign=rain&utm_source=letter`',
    );
    expect(saidIn(['arrive /go/old?utm_source=letter'])[0]).toContain('without the query it was opened with');
  });

  it('keeps nothing of a page without the snippet, also where the next page has it', () => {
    const lines = ['arrive /fleet/bare?qsid=Q8', 'go /fleet/test-ride', 'send test-ride'];
    expect(saidIn(lines)[0]).toContain('The snippet is not on this page: nothing of this is kept or told.');
    expect(walkOf(lines).followed!.strand.clickId).toBe('');
  });

  it('sets off what waits for a time on the page, once that is over', () => {
    const stays = { ...freshCue('stays'), amount: 30 };
    const read = { ...freshEvent(), name: 'page_read', cues: [stays], onceFor: 'visit' as const };
    const rules = { ...content, events: { ...content.events, events: [read], wires: [] } };
    const times = (wait: string) => walkOf(['arrive /fleet', `wait ${wait}`], [], rules);
    expect([times('20 seconds').events, times('40 seconds').events]).toEqual([{}, { page_read: 1 }]);
    expect(times('40 seconds').all.events[0]!.at).toBeGreaterThanOrEqual(start + 40_000);
  });

  it('names what it cannot walk and goes on with the rest', () => {
    const said = saidIn([
      'arrive elsewhere.example/x',
      ad,
      'press Dance',
      'send nothing',
      'stage Dreamt',
      'wait a lot',
      'arrive /fleet/bare',
      'refund',
    ]);
    expect(said[0]).toContain('`elsewhere.example` is none of the business’s websites');
    expect(said[2]).toContain(
      'Nobody pressed `Dance` on `/fleet` lately; there was `Ride one`. It is taken as it is written.',
    );
    expect(said[3]).toContain('No form `nothing` was seen yet. It is taken to have the fields that rules fill.');
    expect(said[3]).toContain('No rule follows this form: no enquiry comes of it.');
    expect(said[4]).toContain('There is no stage `Dreamt`; there are Asked, Fleet assessed, Offer and Not this time.');
    expect(said[5]).toContain('at most 400 days');
    expect(said[6]).toContain('The snippet is not on this page');
    expect(said[7]).toContain('Nothing was ordered before');
  });

  it('takes what nobody has seen yet as the rules would have it, so that a new page can be rehearsed', () => {
    const lines = ['arrive /fleet?qsid=Q5', 'send test-ride', 'wait 1 day', 'stage Fleet assessed'];
    const unseen = rehearse(lines, [], content, { ...world, forms: [], presses: [], inCrm: [] }, start);
    expect(unseen.tellings.map(({ text }) => text).join()).toContain('is told `FLT-QUAL` by the click ID');
    const left = { ...freshCue('leaves_for'), text: 'bellhour.example' };
    const booking = { ...freshEvent(), name: 'booking_opened', cues: [left], onceFor: 'visit' as const };
    const rules = { ...content, events: { ...content.events, events: [booking], wires: [] } };
    const press = (what: string) => walkOf(['arrive /fleet', `press ${what}`], [], rules).events;
    expect(press('bellhour.example/book')).toEqual({ booking_opened: 1 });
    expect(press('Book a time')).toEqual({});
  });

  it('of a business without a website or rules says what is missing', () => {
    const { lines, followed } = rehearse(
      ['arrive /fleet', 'send x', 'come back'],
      [],
      content,
      nothingKnown(''),
      start,
    );
    expect(followed).toBeNull();
    expect(lines[0]!.problem).toBe('No website is known yet: add yours under Connections.');
    expect(lines[1]!.problem).toBe('Nobody is on a page here: arrive or come back first.');
    expect(lines[2]!.problem).toBe('No website is known yet: add yours under Connections.');
  });

  it('shows who may not see money a made-up amount', () => {
    const { tellings } = rehearse(toAssessed, [], content, withoutMoney(world), start);
    expect(tellings[0]!.text).toContain('worth 25.00 GBP');
    expect(JSON.stringify(tellings)).not.toContain('540');
  });

  it('is the same each time', () => expect(walkOf(toAssessed)).toEqual(walkOf(toAssessed)));
});

describe('what a rehearsal expects', () => {
  const expected = [
    { key: 'told FLT-QUAL quillsearch', is: '1' },
    { key: 'event enquiry_sent', is: '1' },
    { key: 'value in_crm click_id', is: 'same' },
  ];
  const brokenBy = (rules: ReleaseContent) =>
    heldAgainst(expected, factsOf(walkOf(toAssessed, [], rules)))
      .filter((one) => !isKept(one))
      .map(({ key, now }) => `${key} ${now}`);

  it('holds by rules that keep it', () => expect(brokenBy(content)).toEqual([]));
  it('breaks by rules that do not, or that have nothing of that name any more', () => {
    expect(brokenBy({ ...content, capture: { ...content.capture, fill: [] } })).toEqual([
      'told FLT-QUAL quillsearch 0',
      'value in_crm click_id empty',
    ]);
    expect(brokenBy({ ...content, events: { ...content.events, events: [], wires: [] } })).toEqual([
      'event enquiry_sent null',
    ]);
  });
});

import { describe, expect, it } from 'vitest';
import { faceOf } from '../destinations/faces';
import { destinationOf } from '../destinations';
import { eventIdOf } from './event-id';
import { clickFor, pageArgument } from './page-argument';
import { pageWires } from './page-wires';
import type { EventRule, WireRule } from './schema';
import { freshWire, mayWire, tellersOf, wireRow } from './wires';

const event: EventRule = {
  name: 'enquiry_sent',
  words: 'Enquiry',
  cues: [],
  conditions: [],
  onceFor: 'lead_token',
  onceReading: '',
  reads: ['bikes', 'last_campaign'],
};
const happened = {
  eventId: eventIdOf('enquiry_sent', '1'.repeat(36)),
  happenedAt: Date.UTC(2027, 1, 1, 12),
  readings: [
    { reading: 'bikes', value: '3' },
    { reading: 'form', value: 'Test Ride (NL)' },
    { reading: 'total', value: '540.5' },
    { reading: 'last_campaign', value: '' },
  ],
};
const wire = (kind: string, change: Partial<WireRule> = {}): WireRule => ({
  ...freshWire(event, kind, faceOf(kind, [])!),
  ...change,
});

describe('a new wire', () => {
  it('has a name in the form that its destination wants, and fields that it knows', () => {
    expect(wire('meterhall')).toMatchObject({
      named: [{ text: 'enquiry-sent', reading: '' }],
      fields: [
        { name: 'bikes', reading: 'bikes' },
        { name: 'campaign', reading: 'last_campaign' },
      ],
      purpose: 'measurement',
    });
    expect(wire('wrenwick')).toMatchObject({ named: [{ text: 'joined' }], fields: [], purpose: 'advertising' });
    for (const kind of ['meterhall', 'quillsearch', 'tessaloop', 'wrenwick']) {
      const face = faceOf(kind, [])!;
      expect(face.named.problem(wireRow(wire(kind), happened, face, '').name)).toBe('');
    }
  });
});

describe('an event as a wire tells it', () => {
  it('puts readings into the name as its destination can take them, and leaves out what is empty', () => {
    const named = [
      { text: 'fleet/', reading: '' },
      { text: '', reading: 'form' },
    ];
    expect(wireRow(wire('meterhall', { named }), happened, faceOf('meterhall', [])!, '')).toMatchObject({
      name: 'fleet/test-ride-nl',
      fields: [['bikes', '3']],
    });
  });

  it('says an email address to Tessaloop by its hash, from the page as from the server', () => {
    const hash = 'a1'.repeat(32);
    const fields = [{ name: 'mail_hash', reading: 'mail' }];
    const tessaloop = wire('tessaloop', { by: 'both', fields });
    const told = { ...happened, readings: [{ reading: 'mail', value: hash }] };
    const row = wireRow(tessaloop, told, faceOf('tessaloop', [])!, 'Ts1');
    const who = { tsl: 'Ts1', mail_hash: hash };
    expect(destinationOf('tessaloop', [])!.writeBatch([row], 'GBP').body).toMatchObject({ who });
    const [page] = pageWires([tessaloop], []);
    const said = { ...happened, at: happened.happenedAt, clickId: 'Ts1', reads: told.readings };
    expect(pageArgument(page!, said)).toMatchObject({ who });
  });

  it('is the same to Tessaloop from the page as from the server, under one ID', () => {
    const tessaloop = wire('tessaloop', { by: 'both', fields: [{ name: 'worth', reading: 'total' }] });
    const [page] = pageWires([tessaloop], []);
    const said = pageArgument(page!, {
      eventId: happened.eventId,
      at: happened.happenedAt,
      clickId: 'tl-1',
      reads: happened.readings,
    }) as Record<string, unknown>;
    const contract = destinationOf('tessaloop', [])!;
    const { body } = contract.writeBatch([wireRow(tessaloop, happened, contract, 'tl-1')], 'GBP');
    expect(body).toEqual({ ...said, money: 'GBP' });
    expect(said).toEqual({
      ref: happened.eventId,
      what: 'enquiry sent',
      moment: '2027-02-01T12:00:00.000Z',
      amount: 540.5,
      who: { tsl: 'tl-1' },
    });
  });
});

describe('who tells', () => {
  it('is a page only where its destination has an opener', () => {
    expect(tellersOf({ by: 'both', how: 'told' })).toEqual(['server', 'page']);
    expect(tellersOf({ by: 'both', how: 'worked out' })).toEqual(['server']);
    expect(pageWires([wire('meterhall', { by: 'page' }), wire('tessaloop', { by: 'server' })], [])).toEqual([]);
  });

  it('is nobody for somebody who brought no click of the platform', () => {
    const clicks = [
      { platform: 'tessaloop', clickId: 'tl-2', at: 2 },
      { platform: 'tessaloop', clickId: 'tl-1', at: 1 },
    ];
    expect([clickFor('tessaloop', clicks), clickFor('wrenwick', clicks), clickFor('', [])]).toEqual(['tl-2', null, '']);
  });

  it('waits for a “yes” where one is asked for, else heeds a “no”', () => {
    const said = { measurement: 'yes', advertising: 'no' } as const;
    const may = (purpose: WireRule['purpose'], required: boolean) => mayWire({ purpose }, said, required);
    expect([may('measurement', true), may('advertising', true), may('advertising', false)]).toEqual([
      true,
      false,
      false,
    ]);
    expect([mayWire({ purpose: 'advertising' }, null, true), mayWire({ purpose: 'advertising' }, null, false)]).toEqual(
      [false, true],
    );
  });
});

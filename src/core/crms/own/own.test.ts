import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readPointer, writePointer } from '../../capture/pointer';
import { withMoves } from '../../leads';
import { nothingRead } from '../../rules/own-crm';
import { guessReading, readDifferently } from './guess';
import { recordsIn } from './index';
import { leavesOf, linesOf, meaningAt, meanings, recordPlaces, withMeaning } from './mapping';
import { readOwnRecord } from './record';

const now = Date.UTC(2027, 1, 15, 12);
const example = {
  items: [
    { id: 7, deal: { stage: 'Met', 'a/b': 'x' }, who: { mail: 'Anna@Bakery.example' }, sum: '£1,249.50', on: null },
  ],
};
const record = example.items[0]!;

describe('an example of a record', () => {
  it('is shown value by value, each with the place that leads to it', () => {
    const leaves = leavesOf(record);
    expect(leaves.map(({ at }) => at)).toEqual(['/id', '/deal/stage', '/deal/a~1b', '/who/mail', '/sum', '/on']);
    for (const { at, value } of leaves) expect(String(readPointer(record, at) ?? '')).toBe(value);
  });

  it('is written as it came, line by line', () => {
    const written = linesOf({ a: [1, { b: null }], c: {} })
      .map(({ depth, key, text }) => ' '.repeat(depth) + key + text)
      .join('\n');
    expect(written).toBe(['{', ' "a": [', '  1', '  {', '   "b": null', '  }', ' ]', ' "c": {}', '}'].join('\n'));
    expect(linesOf('no record')).toEqual([]);
  });

  it('tells by its names what it means, where nobody said so', () => {
    const usual = {
      id: 7,
      status: 'Met',
      modified_on: '2027-02-14T10:00:00Z',
      contact: { id: 9, name: 'Anna', work: 'anna@bakery.example', mobile: '+44 20 7946 0018' },
      company: { id: 3, name: 'Bakery Oriel' },
      amount: '12',
      currency: 'EUR',
      custom: { utm_source: 'quillsearch', click_id: 'q1', avx_lead: 't' },
    };
    const said = { ...nothingRead, stage: '/currency' };
    const guessed = guessReading(said, usual);
    expect(guessed).toMatchObject({
      number: '/id',
      stage: '/currency',
      changedAt: '/modified_on',
      person: '/contact/id',
      personName: '/contact/name',
      mail: '/contact/work',
      telephone: '/contact/mobile',
      company: '/company/name',
      currency: '',
      amounts: [{ name: 'amount', at: '/amount' }],
    });
    expect(guessed.fields.map(({ name, at }) => `${name} ${at}`)).toEqual([
      'lead_token /custom/avx_lead',
      'click_id /custom/click_id',
      'source /custom/utm_source',
    ]);
    expect(readDifferently(said, guessed, usual)).toBe(11);
    expect(guessReading(guessed, usual)).toEqual(guessed);
  });

  it('says where records may be in an answer', () => {
    expect(recordPlaces(example)).toEqual(['', '/items']);
    expect(recordsIn(example, '/items')).toHaveLength(1);
    expect(recordsIn(record, '')).toEqual([record]);
    expect(recordsIn(example, '/nowhere')).toEqual([]);
  });

  it('has one meaning at each place, and each meaning once where there can be one', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.constantFrom('/id', '/deal/stage', '/who/mail', '/sum'),
            fc.constantFrom('', ...meanings.map(([m]) => m)),
          ),
          { maxLength: 12 },
        ),
        (steps) => {
          let reading = nothingRead;
          for (const [at, meaning] of steps) {
            reading = withMeaning(reading, at, meaning);
            expect(meaningAt(reading, at)).toBe(meaning);
          }
          const names = [...reading.fields, ...reading.amounts].map(({ name }) => name);
          expect(new Set(names).size).toBe(names.length);
        },
      ),
    );
  });
});

describe('a record that is read', () => {
  const reading = {
    ...nothingRead,
    number: '/id',
    stage: '/deal/stage',
    mail: '/who/mail',
    amounts: [{ name: 'value', at: '/sum' }],
    fields: [
      { name: 'click_id', at: '/click' },
      { name: 'odd', at: '/deal/a~1b' },
    ],
  };
  it('holds what its rule says, and lacks what is not there', () => {
    expect(readOwnRecord(reading, record, now)).toMatchObject({
      ok: true,
      read: {
        mail: 'Anna@Bakery.example',
        record: {
          deal: '7',
          person: 'anna@bakery.example',
          stage: 'Met',
          stageChanges: [{ stage: 'Met', at: now }],
          fields: { odd: 'x' },
          amounts: { value: { minor: 124_950, currency: 'GBP' } },
        },
      },
    });
  });
  it('without its number is none', () => {
    expect(readOwnRecord({ ...reading, number: '/no' }, record, now)).toMatchObject({ ok: false });
    expect(readOwnRecord(reading, 'text', now)).toMatchObject({ ok: false });
  });
  it('never fails on what is sent', () => {
    fc.assert(fc.property(fc.jsonValue(), (given) => void readOwnRecord(reading, given, now)));
  });

  it('adds a move only where the stage is another one', () => {
    const at = (stage: string, changedAt: number) => {
      const read = readOwnRecord(reading, { ...record, deal: { stage } }, changedAt);
      return read.ok ? read.read.record : null!;
    };
    const first = at('Met', 1000);
    const second = withMoves(first, at('Met', 2000));
    const third = withMoves(second, at('Signed', 3000));
    expect([second.stageChanges.length, third.stageChanges.map(({ stage }) => stage)]).toEqual([1, ['Met', 'Signed']]);
    expect([third.madeAt, third.changedAt]).toEqual([1000, 3000]);
    expect(withMoves(third, at('', 4000)).stage).toBe('Signed');
  });
});

describe('a value put at a pointer', () => {
  it('is read back from there, and everything else stays', () => {
    const token = fc.stringMatching(/^[a-z~/ ]{1,4}$/).map((text) => text.replace(/~/g, '~0').replace(/\//g, '~1'));
    fc.assert(
      fc.property(fc.array(token, { minLength: 1, maxLength: 4 }), fc.integer(), (path, value) => {
        const pointer = `/${path.join('/')}`;
        const written = writePointer({ kept: true }, pointer, value);
        expect(readPointer(written, pointer)).toBe(value);
        if (path[0] !== 'kept') expect(written).toMatchObject({ kept: true });
      }),
    );
    expect(writePointer({}, '/rows/0/id', 1)).toEqual({ rows: [{ id: 1 }] });
    expect(({} as { polluted?: 1 }).polluted).toBeUndefined();
    writePointer({}, '/__proto__/polluted', 1);
    expect(({} as { polluted?: 1 }).polluted).toBeUndefined();
  });
});

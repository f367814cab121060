import { expect, it } from 'vitest';
import { ruleKinds } from '../../rules';
import { ownContract } from '.';
import { openColumns } from './readings';
import { ownPlatformSchema, type PlatformTelling } from '../schema';

const contract = (telling: Partial<PlatformTelling>) => {
  const start = ruleKinds.platform.start!({}, []);
  return ownContract(
    ownPlatformSchema.parse({ ...start, kind: 'fair-lead', words: 'Fair', telling: { ...start.telling, ...telling } }),
  );
};
const row = (n: number, value = `c${n}`) => ({
  eventId: `e${n}`,
  key: { kind: 'click_id' as const, value },
  outcome: 'FLT-QUAL',
  happenedAt: Date.UTC(2027, 1, 15, 9, 42),
  worth: { minor: 124_950, currency: 'GBP' },
});
const file = contract({
  writes: 'csv',
  method: 'PUT',
  path: '/rows-{file}.csv',
  fields: openColumns.map(([at, reading]) => ({ at, reading, text: '' })),
});
const postback = contract({
  method: 'GET',
  path: '/heard?visit={click_id}{&outcome}',
  answer: { rowsAt: '', idAt: '', saysAt: '', taken: ['HEARD'], toldBefore: ['AGAIN'] },
});

it('a file has a heading and a line for each row, quoted where a value needs it, and is told many rows', () => {
  const written = file.writeBatch([row(1), row(2, 'a,"b"')]);
  expect(written.file).toEqual({
    type: 'text/csv; charset=utf-8',
    text: [
      'click_id,outcome,happened_at,amount,currency,order_id,change',
      'c1,FLT-QUAL,2027-02-15T09:42:00.000Z,1249.50,GBP,e1,new',
      '"a,""b""",FLT-QUAL,2027-02-15T09:42:00.000Z,1249.50,GBP,e2,new',
    ].join('\r\n'),
  });
  expect(written.body).toBeUndefined();
  expect([file.limits.rowsPerCall, file.takesFiles, file.files]).toEqual([100, true, { every: 'day', at: '06:00' }]);
  expect(file.readAnswer({ status: 201, headers: {}, body: 'whatever' }, [row(1), row(2)])).toMatchObject({
    kind: 'rows',
    rows: [{ taken: true }, { taken: true }],
  });
});

it('somebody without a click has an empty cell, and their hash a column of its own', () => {
  const both = contract({
    writes: 'csv',
    method: 'PUT',
    path: '/rows',
    fields: [
      { at: '/click', reading: 'click_id', text: '' },
      { at: '/mail', reading: 'mail_hash', text: '' },
    ],
  });
  const text = both.writeBatch([row(1), { ...row(2), key: { kind: 'mail_hash', value: 'f00' } }]).file!.text;
  expect(text).toBe('click,mail\r\nc1,\r\n,f00');
  expect(both.knowsPeopleBy).toEqual(['mail']);
});

it('a postback writes its address by a template, and one word is the whole answer', () => {
  expect(postback.writeBatch([row(1, 'a b&c')]).path).toBe('/heard?visit=a%20b%26c&outcome=FLT-QUAL');
  const read = (body: string, status = 200) => postback.readAnswer({ status, headers: {}, body }, [row(1)]);
  expect(read(' HEARD\n')).toMatchObject({ kind: 'rows', rows: [{ eventId: 'e1', taken: true }] });
  expect(read('AGAIN')).toMatchObject({ rows: [{ taken: true }] });
  expect(read('NOBODY')).toMatchObject({ rows: [{ taken: false, answer: 'NOBODY' }] });
  expect(read('"HEARD"')).toMatchObject({ rows: [{ taken: true }] });
  expect(read('')).toMatchObject({ kind: 'away', status: 'answer not understood' });
  expect(read('HEARD', 500)).toMatchObject({ kind: 'away', status: '500' });
});

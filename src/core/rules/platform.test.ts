import { expect, it } from 'vitest';
import { ownPlatformSchema } from '../platforms/schema';
import { ruleKinds, ruleSentence } from '.';

it('a platform that is told by files needs columns of different names, and a name for each file', () => {
  const own = ruleKinds.platform.start!({}, []);
  const byFile = (part: object) => ({
    ...own,
    words: 'Plain Ads',
    clickParameters: ['qx'],
    telling: { ...own.telling, writes: 'csv', method: 'PUT', path: '/rows-{file}.csv', ...part },
  });
  const found = (part: object) =>
    ruleKinds.platform.check!(ownPlatformSchema.parse(byFile(part)), { platforms: [] } as never).map(
      ({ field, was }) => `${field}: ${was}`,
    );
  expect(found({})).toEqual([]);
  expect(found({ path: '/{token}/rows-{file}.csv' })).toEqual([]);
  expect(found({ method: 'GET' })).toEqual(['telling.method: a file is not sent by GET']);
  expect(found({ path: '/rows.csv' })).toEqual(['telling.path: every file has the same name']);
  expect(found({ path: '/rows-{file}{?click_id}' })).toEqual([
    'telling.path: the path of a file has no values of one row',
  ]);
  expect(found({ fields: [...own.telling.fields, { at: '/click_id', reading: 'event_id', text: '' }] })).toEqual([
    'telling.fields: two columns are called `click_id`',
  ]);
  // Many rows in one list are a matter of JSON.
  expect(found({ many: true })).toEqual([]);
});

it('its sentence says how it is told: by calls, or by files and when', () => {
  const own = ruleKinds.platform.start!({}, []);
  const said = (part: object) =>
    ruleSentence(
      'platform',
      ownPlatformSchema.parse({ ...own, words: 'Plain Ads', telling: { ...own.telling, ...part } }),
    );
  expect(said({ path: '/v1/rows' })).toContain(', by POST to `/v1/rows`.');
  const csv = { writes: 'csv', method: 'PUT', path: '/rows-{file}.csv' };
  expect(said(csv)).toContain(', by a file each day at 06:00, as `/rows-{file}.csv`.');
  expect(said({ ...csv, files: { every: 'hour', at: '06:00' } })).toContain(', by a file each hour, as');
  expect(said({ ...csv, files: { every: 'due', at: '06:00' } })).toContain(
    ', by a file as soon as something is due, as',
  );
});

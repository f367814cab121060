import { describe, expect, it } from 'vitest';
import { larkmoorSetup } from '../../demo/setup/business';
import {
  comparePlanJson,
  comparePlanRows,
  planColumns,
  writePlanJson,
  writePlanRows,
} from '../../src/core/plan/plan-rows';
import { applyChanges } from '../../src/core/rules';
import { releaseContentSchema } from '../../src/core/releases/schema';

const nowhere = 'http://nowhere.example';
const { release } = larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (key: string) => key });
const content = releaseContentSchema.parse(release.content);
content.plan.aliases.push({ tag: 'utm_medium', value: 'Paid_Social', means: 'paid-social' });
const table = (rows = writePlanRows(content)) =>
  rows.map((row, index) => ({
    row: index + 2,
    cells: Object.fromEntries(planColumns.map((column, i) => [column, row[i]])),
  }));

describe('a plan in a file', () => {
  it('read back says that nothing differs', () => {
    expect(comparePlanRows(content, table())).toEqual({ changes: [], problems: [] });
    const json = JSON.parse(JSON.stringify(writePlanJson(content))) as unknown;
    expect(comparePlanJson(content, json)).toEqual({ changes: [], problems: [] });
  });

  it('read into an empty plan gives the plan it was written from', () => {
    const bare = { ...content, plan: { ...content.plan, tags: [], channels: [], referrers: [], aliases: [] } };
    for (const { changes } of [comparePlanRows(bare, table()), comparePlanJson(bare, writePlanJson(content))])
      expect(applyChanges(bare, changes).plan).toEqual(content.plan);
  });

  it('that was changed names the rules that are otherwise, new and gone', () => {
    const rows = writePlanRows(content)
      .filter(([rule, name]) => !(rule === 'referrer' && name === 'tessaloop.example'))
      .map((row) => [...row] as typeof row);
    rows.find(([, name, field]) => name === 'utm_content' && field === 'longest')![3] = '40';
    rows.push(['referrer', 'harbour.example', 'host', 'harbour.example', '']);
    rows.push(['referrer', 'harbour.example', 'channel', 'Referral', '']);
    const { changes, problems } = comparePlanRows(content, table(rows));
    expect(problems).toEqual([]);
    expect(changes.map(({ kind, id, value }) => [kind, id, value === null])).toEqual([
      ...[
        ['tag', 'utm_content', false],
        ['referrer', 'harbour.example', false],
        ['referrer', 'tessaloop.example', true],
      ],
    ]);
  });

  it('with rules that cannot be read names each, and the rest is taken', () => {
    const rows = writePlanRows(content).map((row) => [...row] as typeof row);
    rows.find(([, name, field]) => name === 'utm_term' && field === 'longest')![3] = 'many';
    rows.push(['colour', 'x', 'y', 'z', '']);
    const { changes, problems } = comparePlanRows(content, table(rows));
    expect(changes).toEqual([]);
    expect(problems.map(({ row, was }) => [row.split(',').at(-1)!.trim(), was])).toEqual([
      ...[
        [`row ${rows.length + 1}`, '“colour” is no kind of rule'],
        ['tag utm_term', 'longest must be a number'],
      ],
    ]);
  });
});

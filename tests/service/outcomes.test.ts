import { beforeAll, expect, it } from 'vitest';
import type { Reason } from '../../src/core/reasons/codes';
import { reasonWords } from '../../src/core/reasons/words';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { ask, larkmoor, move, place, qualify, time } from './walks';

/* What is said of an outcome's life: dated facts, and those that are counted no more. */

const day = 86_400_000;
let member: Membership;
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});
const view = () => place.services.outcomesStation.view(member);

it('an outcome says since when it is live and when it was last counted, or that it has gone quiet', async () => {
  expect((await view()).evidence['FLT-QUAL']).toMatchObject({
    count: 0,
    words: expect.stringMatching(/^none yet, live /),
  });
  for (let n = 0; n < 5; n++) {
    move(time + day + 60_000);
    const { deal } = await ask();
    await qualify(deal);
  }
  move(time + 2 * 3_600_000 + 60_000);
  const counted = await view();
  expect(counted.evidence['FLT-QUAL']).toEqual({ count: 5, words: 'live 5 days, last counted 2 h ago' });
  expect(counted.sentence.title).toBe('2 outcomes, counted 5 times so far.');
  move(time + 12 * day);
  const quiet = await view();
  expect(quiet.evidence['FLT-QUAL']!.words).toBe('live 17 days, none for 12 days, usually every 24 h');
  expect(quiet.sentence.title).toBe('FLT-QUAL has gone quiet.');
});

it('one that is in no release any more is listed with what it counted, and is not lost', async () => {
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + day);
  await place.services.releases.make(larkmoor.id, {
    name: 'Without it',
    note: '',
    content: {
      ...content,
      outcomes: content.outcomes.filter(({ code }) => code !== 'FLT-QUAL'),
      telling: content.telling.filter(({ outcome }) => outcome !== 'FLT-QUAL'),
      qualified: {},
    },
  });
  const { retired, outcomes } = await view();
  expect(retired).toMatchObject([{ code: 'FLT-QUAL', count: 5 }]);
  expect(outcomes.map(({ code }) => code)).not.toContain('FLT-QUAL');
  move(time + day);
  await place.services.releases.make(larkmoor.id, { name: 'With it again', note: '', content });
  expect((await view()).retired).toEqual([]);
});

it('a deal won too long after its click is held before it is told, with the stage that would have come in time', async () => {
  const { deal } = await ask();
  move(time + 10 * day);
  await qualify(deal, 'Spoken');
  move(time + 86 * day);
  await qualify(deal, 'Signed');
  const [held] = await rowsOf<{ state: string; reason: Reason; attempts: number }>(
    place.db,
    `SELECT r.state, r.reason, (SELECT COUNT(*) FROM attempts a WHERE a.report_back_id = r.id) AS attempts
     FROM report_backs r WHERE r.account = 'quillsearch' ORDER BY r.made_at DESC LIMIT 1`,
  );
  expect(held).toMatchObject({
    state: 'held',
    attempts: 0,
    reason: { code: 'click_too_old', days: 96, limit: 80, earlier: { stage: 'Spoken', days: 10 } },
  });
  expect(reasonWords(held!.reason).mend).toBe(
    'Count “Spoken” as well: this deal reached it 10 days after the click, in time.',
  );
});

it('that means something else is a version of its own from its release on; what was counted stays as it was', async () => {
  const before = await place.services.releases.live(larkmoor.id);
  const rule = before.content.outcomes.find(({ code }) => code === 'FLT-QUAL')!;
  const release = async (value: typeof rule, name: string) => {
    const { draft } = place.services;
    await draft.change(member, member.role.personId, [{ kind: 'outcome', id: 'FLT-QUAL', value }]);
    const { changes } = await draft.view(member);
    const seen = changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt }));
    await place.services.releasing.release(member, member.role.personId, { name, seen });
    const { content } = await place.services.releases.live(larkmoor.id);
    return content.outcomes.find(({ code }) => code === 'FLT-QUAL')!.version;
  };
  move(time + day);
  expect(await release({ ...rule, words: 'Assessed' }, 'Another name')).toBe(1);
  move(time + day);
  expect(await release({ ...rule, clickDays: 60 }, 'Younger clicks')).toBe(2);
  move(time + 60_000);
  const { deal } = await ask();
  await qualify(deal);
  const counted = await rowsOf<{ version: number; n: number }>(
    place.db,
    "SELECT version, COUNT(*) AS n FROM outcomes WHERE code = 'FLT-QUAL' GROUP BY version ORDER BY version",
  );
  expect(counted.map(({ version, n }) => [version, Number(n)])).toEqual([
    [1, 6],
    [2, 1],
  ]);
});

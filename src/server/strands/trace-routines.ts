import type { Context } from '../context';
import { plain } from '../db';
import type { ActRow } from '../leads/routines/table';

/** What a routine told somebody about a lead, or the lead themselves; and that they answered. */
export interface RoutineEvent {
  /** ms. */
  at: number;
  text: string;
  seenBy: 'routine' | 'email';
  enquiryId: string;
}

const shown = { does: ['mail', 'tell_mail', 'tell_webhook'] as ActRow['does'][], limit: 200 };
const answers: Record<string, string> = { replied: 'Wrote back', unsubscribed: 'Unsubscribed' };

/** What routines told of, or to, whoever enquired; what they write into the CRM is among its writes. */
export async function readRoutineEvents(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  enquiryIds: string[],
): Promise<RoutineEvent[]> {
  if (enquiryIds.length === 0) return [];
  const [acts, runs] = await Promise.all([
    tables.routineActs.findAll({
      where: { businessId, enquiryId: enquiryIds, does: shown.does },
      order: [['at', 'ASC']],
      limit: shown.limit,
    }),
    tables.routineRuns.findAll({
      where: { businessId, enquiryId: enquiryIds, state: 'let_go', why: Object.keys(answers) },
      limit: shown.limit,
    }),
  ]);
  const [told, ended] = [plain(acts), plain(runs)];
  const id = [...new Set(told.map(({ routineId }) => routineId))];
  const names = new Map(
    plain(await tables.routines.findAll({ attributes: ['id', 'name'], where: { businessId, id } })).map((row) => [
      row.id,
      row.name,
    ]),
  );
  return [
    ...told.flatMap((act): RoutineEvent[] => {
      const text = wordsOf(act);
      const by = `, by “${names.get(act.routineId) ?? ''}”`;
      return text === ''
        ? []
        : [{ at: act.at.getTime(), text: text + by, seenBy: 'routine', enquiryId: act.enquiryId }];
    }),
    ...ended.map((run): RoutineEvent => ({
      at: (run.endedAt ?? run.lastAt).getTime(),
      text: answers[run.why]!,
      seenBy: 'email',
      enquiryId: run.enquiryId,
    })),
  ];
}

function wordsOf({ state, words, answer, does }: ActRow): string {
  const what = words || (does === 'mail' ? 'An email' : 'What was to be told');
  switch (state) {
    case 'done':
      return words;
    case 'unsure':
      return `${what}; nobody knows whether it arrived`;
    case 'refused':
      return `${what}, refused: ${answer}`;
    case 'left_out':
      return `${what} was left out: ${answer}`;
    case 'waiting':
    case 'begun':
    case 'again':
      return '';
  }
}

import { eventIdOf } from '../../src/core/events/event-id';
import { judgeEvent } from '../../src/core/events/judge';
import { momentFrom, type MomentData } from '../../src/core/events/moment.fixture';
import type { EventRule, ReadingRule } from '../../src/core/events/schema';

/** What the engine says of page contexts, wherever it runs: each event with its reasons, its key and its ID. */
export const judgments = (contexts: [EventRule, ReadingRule[], MomentData][]): string[] =>
  contexts.map(([rule, readings, data]) => {
    const judged = judgeEvent(rule, momentFrom(data, readings));
    return JSON.stringify({ ...judged, id: judged.key && eventIdOf(rule.name, judged.key) });
  });

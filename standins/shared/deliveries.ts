import { isoNow, nowMs } from './clock';
import type { Rows } from './store';

/** Something one service owes another: sent again with growing waits until it was taken. */
export interface Delivery {
  id: string;
  made_at: string;
  tries: number;
  /** ms of the next try, 0 once it was taken. */
  next_at: number;
  last_answer: string;
}

/**
 * Works off what is owed: at once when something was added, later by its waits. What failed eight times is left alone.
 *
 * @param send does one delivery and returns what was answered; throws or returns a status of 300 and more when it failed
 */
export function makeDeliveries<Row extends Delivery>(rows: Rows<Row>, send: (row: Row) => Promise<{ status: number }>) {
  let running: Promise<void> | null = null;

  async function deliver(row: Row): Promise<void> {
    let answer: string;
    let taken = false;
    try {
      const { status } = await send(row);
      answer = String(status);
      taken = status < 300;
    } catch (error) {
      answer = (error as Error).message;
    }
    const tries = row.tries + 1;
    const wait = Math.min(2000 * 3 ** tries, 600_000);
    rows.put({ ...row, tries, last_answer: answer, next_at: taken || tries >= 8 ? 0 : nowMs() + wait });
  }

  async function work(): Promise<void> {
    for (;;) {
      const due = rows.all().filter((row) => row.next_at > 0 && row.next_at <= nowMs());
      if (due.length === 0) return;
      for (const row of due) await deliver(row);
    }
  }

  const start = () => (running ??= work().finally(() => (running = null)));
  setInterval(() => void start(), 1000).unref();

  return {
    add(row: Omit<Row, keyof Delivery> & { id: string }): void {
      rows.put({ ...row, made_at: isoNow(), tries: 0, next_at: nowMs(), last_answer: '' } as unknown as Row);
      void start();
    },
    /** Resolves once nothing is due any more. */
    rest: async (): Promise<void> => void (await start()),
  };
}

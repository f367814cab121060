import { setTimeout as wait } from 'node:timers/promises';
import type { Context, MiddlewareHandler } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Rows, Store } from './store';

const kinds = {
  none: 'works as it should',
  slow: 'answers slowly',
  busy: 'answers 429, with a waiting time',
  broken: 'answers 500',
  silent: 'never answers',
  lost: 'takes it, then loses the connection',
  choosy: 'refuses every third row',
} as const;
type Kind = keyof typeof kinds;

const settingSchema = z.object({
  kind: z.enum(Object.keys(kinds) as [Kind, ...Kind[]]),
  seconds: z.coerce.number().int().min(0).max(600),
});
interface Fault extends z.infer<typeof settingSchema> {
  id: string;
}

/** What a stand-in under Node's server knows of the connection. */
interface Connection {
  outgoing?: { destroy(): void };
}

/**
 * The ways in which a stand-in can be made to fail: set on its page for every call, or by one call's own header
 * `standin-fault: broken` (with `standin-fault-seconds`).
 */
export function makeFaults(store: Store) {
  const rows: Rows<Fault> = store.rows('faults');
  const setting = (): Fault => rows.get('fault') ?? { id: 'fault', kind: 'none', seconds: 5 };

  const asked = (c: Context): z.infer<typeof settingSchema> => {
    const header = settingSchema.safeParse({
      kind: c.req.header('standin-fault'),
      seconds: c.req.header('standin-fault-seconds') ?? '5',
    });
    return header.success ? header.data : setting();
  };

  const middleware: MiddlewareHandler = async (c, next): Promise<Response | void> => {
    const { kind, seconds } = asked(c);
    if (kind === 'busy') return c.json({ error: 'too many calls' }, 429, { 'retry-after': String(seconds) });
    if (kind === 'broken') return c.json({ error: 'out of order' }, 500);
    if (kind === 'silent') await wait(120_000);
    if (kind === 'slow') await wait(seconds * 1000);
    await next();
    if (kind === 'lost') {
      (c.env as Connection | undefined)?.outgoing?.destroy();
      c.res = new Response(null, { status: 502 });
    }
    return undefined;
  };

  return {
    /** True where it is to refuse some of what this call brings. */
    isChoosy: (c: Context) => asked(c).kind === 'choosy',
    middleware,
    /** What was set on the page. */
    setting,
    /** Takes the form of the page; returns what is wrong with it, or null. */
    set(given: Record<string, unknown>): string | null {
      const parsed = settingSchema.safeParse(given);
      if (!parsed.success) return 'seconds: must be a whole number from 0 to 600';
      rows.put({ id: 'fault', ...parsed.data });
      return null;
    },
    form(action: string) {
      const { kind, seconds } = setting();
      return html`<form method="post" action="${action}" class="faults">
        <label
          >Its interface
          <select name="kind">
            ${Object.entries(kinds).map(
              ([key, words]) => html`<option value="${key}" ${key === kind ? 'selected' : ''}>${words}</option>`,
            )}
          </select></label
        >
        <label>seconds <input name="seconds" value="${seconds}" size="3" inputmode="numeric" /></label>
        <button>Set</button>
      </form>`;
    },
  };
}
export type Faults = ReturnType<typeof makeFaults>;

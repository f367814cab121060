import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Rows, Store } from '../shared/store';

/** What a month of the care plan costs for one bike, in pounds. */
const monthly = 18;

/** A subscription to the care plan, as the till bills it. */
export interface CarePlan {
  /** The subscription number. */
  id: string;
  bikes: number;
  /** The lead token that the sign-up carried. */
  lead: string;
}
const signUpSchema = z.object({
  mail: z.email('a mail address is needed, such as anna@bakery.example'),
  bikes: z.coerce.number().int().min(1, 'at least one bike').max(200, 'at most 200 bikes').default(1),
  avx_lead: z.string().max(60).default(''),
});
type Frame = (title: string, body: unknown) => unknown;

/** What a month of a plan comes to, in pounds as they are written. */
export const monthOf = ({ bikes }: CarePlan): string => (bikes * monthly).toFixed(2);

/** The care plan: a page to sign up for it, and the page that welcomes whoever did. */
export function makeCare(
  store: Store,
  frame: Frame,
  started: (plan: CarePlan) => void,
): { app: Hono; plans: () => CarePlan[] } {
  const plans: Rows<CarePlan> = store.rows('care plans');
  const app = new Hono();
  const page = (title: string, body: unknown) =>
    frame(
      title,
      html`<main class="words">
        <h1>${title}</h1>
        ${body}
      </main>`,
    ) as ReturnType<typeof html>;

  const form = (problems: string[]) =>
    page(
      'Start the care plan',
      html`<p>£${String(monthly)} a month for each bike, billed on the day you start.</p>
        ${problems.map((text) => html`<p class="problems">${text}</p>`)}
        <form name="care-start" method="post" action="/care/start">
          <label>Email <input name="mail" type="email" /></label>
          <label>How many bikes <input name="bikes" type="number" value="2" /></label>
          <input type="hidden" name="avx_lead" value="" />
          <button class="button">Start the plan</button>
        </form>`,
    );
  app.get('/care/start', (c) => c.html(form([])));
  app.post('/care/start', async (c) => {
    const given = signUpSchema.safeParse(await c.req.parseBody());
    if (!given.success) return c.html(form(given.error.issues.map(({ message }) => message)), 422);
    const { bikes, avx_lead: lead } = given.data;
    const plan = { id: `CP-${5_101 + plans.all().length}`, bikes, lead };
    plans.put(plan);
    started(plan);
    return c.redirect('/care/welcome', 303);
  });
  app.get('/care/welcome', (c) =>
    c.html(page('Welcome to the care plan', html`<p>Your mechanic rings you to fix the first morning.</p>`)),
  );
  return { app, plans: () => plans.all() };
}

import type { IncomingMessage, ServerResponse } from 'node:http';
import { z } from 'zod';
import { atTime, setClock } from '../clock';
import { leadPullSchema } from '../../core/leads/forms-view';
import { workKinds } from '../db';
import { sameText } from '../secrets';
import type { Services } from '../services';
import { setupSchema } from '../setup';
import { readBody } from './bodies';
import { reply, replyError, replyJson } from './reply';

type Edge = (request: IncomingMessage, response: ServerResponse) => Promise<void>;

const pagesSchema = z.object({
  business: z.string(),
  /** What pages sent: when (ms), with which user agent, from which IP address, which body. */
  pages: z
    .array(z.object({ at: z.number(), agent: z.string(), address: z.string().default(''), body: z.string() }))
    .max(500),
});

const leadFormsSchema = leadPullSchema.extend({ business: z.string(), account: z.string() });
const personSchema = z.object({
  mail: z.email(),
  password: z.string().min(10),
  business: z.string(),
  role: z.enum(['owner', 'editor', 'reader']),
  seesPeople: z.boolean().default(true),
  seesMoney: z.boolean().default(true),
});

/**
 * Moves the clock, runs the background work in step with it, makes businesses and people: for tests and for the demo's
 * replay. There is no such door unless the process was started with a switch, and it opens only to who knows it.
 */
export function makeTestSwitch(services: Services) {
  const { config, runner, spoolWriter, setUpBusiness, businesses, people, collect, accounts, leadForms, routines } =
    services;
  const doors: Record<string, (body: unknown) => Promise<object | void>> = {
    async clock(body) {
      const { at, paused } = z.object({ at: z.number().nullable(), paused: z.boolean().optional() }).parse(body);
      setClock(at);
      if (paused !== undefined) runner.pause(paused);
    },
    /** What many pages sent, each taken as the collector takes it, at its own time. */
    async pages(body) {
      const { business, pages } = pagesSchema.parse(body);
      const known = await businesses.byKey(business);
      if (!known) throw new Error(`no business ${business}`);
      const refused = await Promise.all(pages.map(({ body, at, ...from }) => collect(known, body, from, at)));
      return { refused: refused.flat() };
    },
    drain: () => spoolWriter.drain(),
    /** Runs the background work until nothing is due, but for kinds that are left for `later`. */
    async rest(body) {
      const { later } = z.object({ later: z.array(z.enum(workKinds)).default([]) }).parse(body);
      await spoolWriter.drain();
      return { done: await runner.runToRest(later) };
    },
    business: async (body) => ({ id: await setUpBusiness(setupSchema.parse(body)) }),
    /** Has an account's own forms fetched, as one of the business's owners does. */
    async leadForms(body) {
      const { business, account, ...given } = leadFormsSchema.parse(body);
      const known = await businesses.byKey(business);
      const found = known && (await accounts.byKey(known.id, account));
      if (!found) throw new Error(`no account ${account} of ${business}`);
      const owner = await people.anOwner(known);
      if (owner) await leadForms.begin(owner, owner.name, { ...given, account: found.id });
    },
    /** Starts a business's routines, as one of its owners does. */
    async routines(body) {
      const known = await businesses.byKey(z.object({ business: z.string() }).parse(body).business);
      const owner = known && (await people.anOwner(known));
      if (!owner) throw new Error('no business with an owner');
      for (const { id, state } of (await routines.view(owner)).routines)
        // eslint-disable-next-line no-await-in-loop -- few, one after the other
        if (state === 'draft') await routines.act(owner, { id, what: 'start', those: false });
    },
    async person(body) {
      const { mail, password, business, role, seesPeople, seesMoney } = personSchema.parse(body);
      const known = await businesses.byKey(business);
      if (!known) throw new Error(`no business ${business}`);
      const personId = await people.create(mail, mail.split('@')[0]!, password);
      await people.grant({
        businessId: known.id,
        personId,
        role,
        mayRelease: role !== 'reader',
        seesPeople,
        seesMoney,
      });
      return { id: personId };
    },
  };

  const known = (request: IncomingMessage) =>
    config.testSwitch !== null && sameText(String(request.headers['avrix-test-switch'] ?? ''), config.testSwitch);

  async function takeSwitch(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
    const door = /^\/_test\/(\w+)$/.exec(request.url ?? '')?.[1] ?? '';
    if (!known(request) || !Object.hasOwn(doors, door)) return false;
    try {
      const answer = await doors[door]!(JSON.parse((await readBody(request, 20_000_000)) || '{}'));
      if (answer) replyJson(response, 200, answer);
      else reply(response, 204);
    } catch (error) {
      if (error instanceof z.ZodError) replyJson(response, 422, { message: z.prettifyError(error) });
      else replyError(response, error);
    }
    return true;
  }

  /** Before a door of the edge opens: takes a call of the test switch itself, and a call's own time (ms). */
  return (edge: Edge): Edge =>
    async (request, response) => {
      if (await takeSwitch(request, response)) return;
      const at = Number(request.headers['avrix-test-at']);
      await (at > 0 && known(request) ? atTime(at, () => edge(request, response)) : edge(request, response));
    };
}

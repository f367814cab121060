import type { IncomingMessage, ServerResponse } from 'node:http';
import { z } from 'zod';
import { setClock } from '../clock';
import { sameText } from '../secrets';
import type { Services } from '../services';
import { setupSchema } from '../setup';
import { readBody, reply, replyError, replyJson } from './reply';

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
export function makeTestSwitch({ config, runner, spoolWriter, setUpBusiness, businesses, people }: Services) {
  const doors: Record<string, (body: unknown) => Promise<object | void>> = {
    async clock(body) {
      const { at, paused } = z.object({ at: z.number().nullable(), paused: z.boolean().optional() }).parse(body);
      setClock(at);
      if (paused !== undefined) runner.pause(paused);
    },
    drain: () => spoolWriter.drain(),
    async rest() {
      await spoolWriter.drain();
      return { done: await runner.runToRest() };
    },
    business: async (body) => ({ id: await setUpBusiness(setupSchema.parse(body)) }),
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

  return async function takeSwitch(request: IncomingMessage, response: ServerResponse): Promise<boolean> {
    const door = /^\/_test\/(\w+)$/.exec(request.url ?? '')?.[1] ?? '';
    if (!config.testSwitch || !Object.hasOwn(doors, door)) return false;
    if (!sameText(String(request.headers['avrix-test-switch'] ?? ''), config.testSwitch)) return false;
    try {
      const answer = await doors[door]!(JSON.parse((await readBody(request, 200_000)) || '{}'));
      if (answer) replyJson(response, 200, answer);
      else reply(response, 204);
    } catch (error) {
      if (error instanceof z.ZodError) replyJson(response, 422, { message: z.prettifyError(error) });
      else replyError(response, error);
    }
    return true;
  };
}

import { beforeAll } from 'vitest';
import { freshRoutine, freshStep, type RoutineMeans, type Step } from '../../src/core/leads/routines/routine';
import type { Membership } from '../../src/server/people/people';
import { idAt, makeEditor } from './place';
import { ask, larkmoor, move, outside, place, rest, time } from './walks';

/* Routines that are made and started by hand, and the emails that arrive at Brindlepost. */

export const [hour, day] = [3_600_000, 86_400_000];
export let member: Membership;
export let mails: Record<'ride' | 'call' | 'later', string>;
let number = 0;
export const step = (given: Partial<Step>): Step => ({ ...freshStep(idAt(time, 90_000 + ++number)), ...given });

export interface Letter {
  to: string;
  subject: string;
  text: string;
  messageId: string;
  id: string;
  source: string;
  refused: string;
}
export const letters = async (): Promise<Letter[]> => {
  const { letters: all } = (await (await outside.brindlepost.app.request('/letters.json')).json()) as {
    letters: Letter[];
  };
  return all.filter(({ refused }) => refused === '');
};
export const lettersTo = async (to: string) =>
  (await letters()).filter((one) => one.to === to).map(({ subject }) => subject);
export const fault = (kind: string) =>
  outside.brindlepost.app.request('/faults', { method: 'POST', body: new URLSearchParams({ kind, seconds: '1' }) });
export async function write(name: string, text = 'Hello {{ first_name }}') {
  return (await place.services.mailTemplates.save(member, { id: '', name, subject: name, text, html: '', seen: '' }))
    .id;
}
/** Makes a routine and starts it. */
export async function begin(
  name: string,
  steps: Step[],
  given: Partial<RoutineMeans> = {},
  those = false,
): Promise<string> {
  const means = { ...freshRoutine(steps[0]!.id), steps, ...given };
  const { id } = await place.services.routines.save(member, { id: '', name, means, seen: '' });
  await place.services.routines.act(member, { id, what: 'start', those });
  move(time + 60_000);
  return id;
}
export const retire = (id: string) => place.services.routines.act(member, { id, what: 'retire', those: false });
export const runsOf = async (id: string) => (await place.services.runs.read(member, id)).runs;
export const viewOf = async (id: string) =>
  (await place.services.routines.view(member)).routines.find((one) => one.id === id)!;
export const letGo = (given: Partial<RoutineMeans['letGo']> = {}): Pick<RoutineMeans, 'letGo'> => ({
  letGo: { reply: true, stages: [], answered: 'no', ...given },
});
export const onForm = (...forms: string[]): Pick<RoutineMeans, 'takes'> => ({
  takes: { ...freshRoutine('').takes, forms },
});
/** Somebody asks; their address in the CRM. */
export async function asks(given: Parameters<typeof ask>[0] = {}) {
  const walk = await ask(given);
  const deal = (await (
    await outside.oakledger.app.request(`/api/deals/${walk.deal}`, {
      headers: { authorization: `Bearer ${outside.around.key('oakledger token')}` },
    })
  ).json()) as { person: { mail: string } };
  await rest();
  return { ...walk, mail: deal.person.mail };
}

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  await place.services.mailSetUp.save(member, {
    host: 'brindlepost.localhost',
    port: outside.around.smtpPort,
    security: 'none',
    user: 'larkmoor',
    password: outside.around.key('brindlepost password'),
    fromName: 'Larkmoor',
    fromAddress: 'hello@larkmoor.example',
    replyTo: '',
    perMinute: 600,
  });
  mails = {
    ride: await write('Your test ride'),
    call: await write('We call you back'),
    later: await write('Any questions?'),
  };
});

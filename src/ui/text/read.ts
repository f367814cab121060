import type { WrongField } from '../../core/errors';

/** An error answer of Avrix's own API: its sentence, and the fields that were wrong. */
export class ApiProblem extends Error {
  constructor(
    message: string,
    readonly fields: WrongField[],
    /** Every member of the answer's problem details. */
    readonly more: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

async function take(answer: Response): Promise<unknown> {
  const text = await answer.text();
  const body: unknown = text ? JSON.parse(text) : null;
  if (answer.ok) return body;
  const problem = (body ?? {}) as { detail?: string; fields?: WrongField[] };
  throw new ApiProblem(problem.detail ?? `The server answered ${answer.status}.`, problem.fields ?? [], { ...problem });
}

/** Reads JSON from Avrix's own API. @throws ApiProblem with the sentence of the answer */
export async function readJson<T>(address: string): Promise<T> {
  return (await take(await fetch(address, { headers: { accept: 'application/json' } }))) as T;
}

/** Sends a file to Avrix's own API and returns what it answers. @throws ApiProblem */
export async function sendFile<T>(address: string, file: File): Promise<T> {
  return (await take(await fetch(address, { method: 'POST', body: file }))) as T;
}

/** Sends JSON to Avrix's own API and returns what it answers. @throws ApiProblem */
export async function sendJson<T = unknown>(address: string, body: object): Promise<T> {
  const headers = { 'content-type': 'application/json', accept: 'application/json' };
  return (await take(await fetch(address, { method: 'POST', headers, body: JSON.stringify(body) }))) as T;
}

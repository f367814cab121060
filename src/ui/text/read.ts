/** Reads JSON from Avrix's own API. @throws Error with the sentence of the answer */
export async function readJson<T>(address: string): Promise<T> {
  const answer = await fetch(address, { headers: { accept: 'application/json' } });
  const body: unknown = await answer.json();
  if (!answer.ok) throw new Error((body as { message?: string }).message ?? `The server answered ${answer.status}.`);
  return body as T;
}

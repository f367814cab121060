import { expect, it } from 'vitest';
import { eventStream } from './event-stream';

async function read(response: Response, most = 10): Promise<string> {
  const reader = response.body!.getReader();
  let text = '';
  for (let i = 0; i < most; i++) {
    const { done, value } = await reader.read();
    if (done) break;
    text += new TextDecoder().decode(value);
  }
  await reader.cancel();
  return text;
}

it('sends each value as an event, and keeps the connection open where there is nothing to say', async () => {
  const values = (async function* () {
    yield { rows: ['a\nb'] };
    yield null;
    yield 2;
  })();
  const response = eventStream(values);
  expect(response.headers.get('content-type')).toBe('text/event-stream');
  expect(await read(response)).toBe('data: {"rows":["a\\nb"]}\n\n:\n\ndata: 2\n\n');
});

it('asks for no more once the browser has gone away', async () => {
  let asked = 0;
  let hasEnded = false;
  const values = (async function* () {
    try {
      for (;;) yield (asked += 1);
    } finally {
      hasEnded = true;
    }
  })();
  await read(eventStream(values), 2);
  const before = asked;
  await new Promise((resolve) => setImmediate(resolve));
  expect([asked, hasEnded]).toEqual([before, true]);
});

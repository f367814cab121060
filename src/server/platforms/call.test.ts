import { createHmac } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { Account } from './accounts';
import { writeCall } from './call';

const account = { endpoint: 'https://ads.example', secrets: { token: 'k' } } as Account;
const signature = (text: string) => createHmac('sha256', 'k').update(text).digest('hex');

describe('a call of an account that signs', () => {
  const signed = { header: 'X-Signature', before: 'sha256=', signs: true };

  it('carries the HMAC-SHA256 of the very body that is sent, and not the key', () => {
    const call = writeCall(account, signed, { method: 'POST', path: '/told', body: { worth: 135, who: 'Zoë' } });
    expect(call.headers).toMatchObject({ 'x-signature': `sha256=${signature(call.body!)}` });
    expect(JSON.stringify(call)).not.toContain('"k"');
  });

  it('signs its path with its query where it has no body', () => {
    const call = writeCall(account, signed, { method: 'GET', path: '/told?click=Q1' });
    expect(call.headers).toMatchObject({ 'x-signature': `sha256=${signature('/told?click=Q1')}` });
  });
});

it('a call of an account that sends its key carries it after what stands before it', () => {
  const call = writeCall(account, { header: 'X-Key', before: 'Key ' }, { method: 'POST', path: '/told', body: {} });
  expect(call.headers).toMatchObject({ 'x-key': 'Key k' });
});

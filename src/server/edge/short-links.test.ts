import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { hash } from '@node-rs/argon2';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { KnownBusiness } from '../businesses';
import type { ShortLinkRow } from '../db';
import type { SpooledClick } from '../links/clicks';
import type { ShortLinkBook } from '../links/short-link-book';
import { replyError } from './reply';
import { makeOpenShortLink } from './short-links';

const person = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0 Safari/537.36';
const business = { id: 'b', timeZone: 'Europe/London' } as KnownBusiness;
const links: Record<string, Partial<ShortLinkRow>> = {
  fair: { destination: 'http://l.example/fleet?a=1', wins: 'link', status: 302 },
  kept: { destination: 'http://l.example/', wins: 'neither', status: 301 },
  over: { destination: 'http://l.example/', expiresAt: new Date(0) },
  gone: { destination: 'http://l.example/', retiredAt: new Date(0) },
};
let clicks: SpooledClick[] = [];
let isDiskFull = false;
let server: Server;
let at = '';

beforeAll(async () => {
  links.secret = { destination: 'http://l.example/prices', status: 302, passwordHash: await hash('wholesale') };
  const usual = { id: 'x', wins: 'link', status: 302, passwordHash: null, expiresAt: null, retiredAt: null };
  const book = {
    find: (_business: string, path: string) =>
      Promise.resolve(Object.hasOwn(links, path) ? { ...usual, path, ...links[path] } : null),
  } as unknown as ShortLinkBook;
  const spool = {
    append: (text: string) =>
      isDiskFull
        ? Promise.reject(new Error('full'))
        : Promise.resolve(void clicks.push(JSON.parse(text) as SpooledClick)),
  };
  const open = makeOpenShortLink(book, spool as never, {
    secretKey: Buffer.alloc(32, 7),
    trustedProxies: ['127.0.0.1'],
    edgeOrigin: 'http://avrix-edge.localhost',
  });
  server = createServer((request, response) => {
    const path = (request.url ?? '').split('?')[0]!.slice(1);
    void open(request, response, business, path).catch((error: unknown) => replyError(response, error));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => server.close());
beforeEach(() => {
  clicks = [];
  isDiskFull = false;
});

const ask = (path: string, init: RequestInit = {}) =>
  fetch(at + path, { redirect: 'manual', ...init, headers: { 'user-agent': person, ...init.headers } });
const form = (password: string): RequestInit => ({ method: 'POST', body: new URLSearchParams({ password }) });
const html = { headers: { accept: 'text/html,*/*' } };

describe('an opened short link', () => {
  it('leads on and is counted with what it led to and where from', async () => {
    const answer = await ask('/fair?b=2', { headers: { referer: 'https://bakery.example/x' } });
    expect([answer.status, answer.headers.get('location')]).toEqual([302, 'http://l.example/fleet?a=1&b=2']);
    expect(answer.headers.get('cache-control')).toBe('no-store');
    expect(answer.headers.get('x-robots-tag')).toBe('noindex');
    expect(clicks).toMatchObject([
      {
        business: 'b',
        shortLink: 'x',
        location: 'http://l.example/fleet?a=1&b=2',
        bot: false,
        referrer: 'https://bakery.example/x',
        timeZone: 'Europe/London',
      },
    ]);
  });

  it('is found whatever its letters, and passes on only what it may', async () => {
    const answer = await ask('/KEPT?b=2');
    expect([answer.status, answer.headers.get('location')]).toEqual([301, 'http://l.example/']);
  });

  it.each([
    ['a program that says so', '/fair', { headers: { 'user-agent': 'LinkScanner/1.0 (bot)' } }],
    ['a look at the head only', '/fair', { method: 'HEAD' }],
    ['a browser that looks ahead', '/fair', { headers: { 'sec-purpose': 'prefetch;prerender' } }],
  ])('by %s leads on too, marked as no click of a person', async (_who, path, init) => {
    expect((await ask(path, init)).status).toBe(302);
    expect(clicks.map(({ bot }) => bot)).toEqual([true]);
  });

  it('leads on where the click cannot be kept: nobody is kept from the page', async () => {
    isDiskFull = true;
    expect((await ask('/fair')).status).toBe(302);
  });
});

describe('a short link that leads nowhere', () => {
  it.each([
    ['/nowhere', 404, 'There is no short link at this address.'],
    ['/over', 410, 'The short link “over” is no longer in use.'],
    ['/gone', 410, 'The short link “gone” is no longer in use.'],
    ['/constructor', 404, 'There is no short link at this address.'],
  ])('%s answers %i, to a person as a page and to a program as a problem', async (path, status, sentence) => {
    const page = await ask(path, html);
    expect([page.status, page.headers.get('content-type')]).toEqual([status, 'text/html; charset=utf-8']);
    expect(await page.text()).toContain(`<p>${sentence}</p>`);
    const problem = await ask(path);
    expect([problem.status, ((await problem.json()) as { detail: string }).detail]).toEqual([status, sentence]);
    expect(clicks).toEqual([]);
  });
});

describe('a short link with a password', () => {
  it('asks for it, and counts nothing before it is right', async () => {
    const asked = await ask('/secret', html);
    expect(asked.status).toBe(200);
    expect(await asked.text()).toContain('This link asks for a password');
    const wrong = await ask('/secret', form('retail'));
    expect([wrong.status, await wrong.text()]).toEqual([403, expect.stringContaining('That is not the password.')]);
    expect(clicks).toEqual([]);
    const right = await ask('/secret', form('wholesale'));
    expect([right.status, right.headers.get('location')]).toEqual([303, 'http://l.example/prices']);
    expect(clicks).toHaveLength(1);
  });

  it('remembers where somebody came from before it asked, and is itself no place to come from', async () => {
    const from = 'https://partner.example/?a="b"&c=<d>';
    const asked = await ask('/secret', { headers: { ...html.headers, referer: encodeURI(from) } });
    expect(asked.headers.get('referrer-policy')).toBe('no-referrer');
    const [, field = ''] = /name="from" value="([^"]*)"/.exec(await asked.text())!;
    const told = field.replaceAll(/&#(\d+);/g, (_, code) => String.fromCharCode(Number(code)));
    await ask('/secret', { method: 'POST', body: new URLSearchParams({ from: told, password: 'wholesale' }) });
    expect(clicks).toMatchObject([{ referrer: encodeURI(from) }]);
  });

  it('lets its form go nowhere but to itself and where it leads', async () => {
    expect((await ask('/secret')).headers.get('content-security-policy')).toContain(
      "form-action 'self' http://l.example;",
    );
  });

  it('is tried ten times from one place, however many at once, and by who knew it before all the same', async () => {
    const from = (address: string, password: string, cookie = '') =>
      ask('/secret', { ...form(password), headers: { 'x-forwarded-for': address, cookie } });
    const right = await from('203.0.113.1', 'wholesale');
    const pass = right.headers.get('set-cookie')!.split(';')[0]!;
    expect(right.headers.get('set-cookie')).toMatch(/; Path=\/secret; .*HttpOnly; SameSite=Lax$/);
    const answers = await Promise.all(Array.from({ length: 30 }, () => from('203.0.113.1', 'wrong')));
    expect(answers.filter(({ status }) => status === 403)).toHaveLength(10);
    expect(answers.filter(({ status }) => status === 429)).toHaveLength(20);
    expect((await from('203.0.113.1', 'wholesale')).status).toBe(429);
    expect((await from('203.0.113.1', 'wholesale', pass)).status).toBe(303);
    expect((await from('203.0.113.2', 'wholesale')).status).toBe(303);
    expect((await from('203.0.113.1', 'wholesale', `${pass}x`)).status).toBe(429);
    // From everywhere: the link itself is tried a hundred times, and who knew it is let in.
    await Promise.all(Array.from({ length: 100 }, (_, n) => from(`198.51.100.${n}`, 'wrong')));
    expect((await from('203.0.113.3', 'wholesale')).status).toBe(429);
    expect((await from('203.0.113.3', 'wholesale', pass)).status).toBe(303);
  });

  it('takes no form that is larger than a password', async () => {
    expect((await ask('/secret', form('x'.repeat(5000)))).status).toBe(413);
  });
});

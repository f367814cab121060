/* eslint-disable no-await-in-loop -- two limits, the second only where the first lets through */
import type { IncomingMessage, ServerResponse } from 'node:http';
import { verify } from '@node-rs/argon2';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { parseCookieText } from '../../core/capture';
import { asAvrixError, AvrixError } from '../../core/errors';
import { openShortLink } from '../../core/links';
import type { KnownBusiness } from '../businesses';
import { isBot } from '../capture/bots';
import type { Spool } from '../capture/spool/spool';
import { nowMs } from '../clock';
import type { Config } from '../config';
import type { ShortLinkRow } from '../db';
import { newId } from '../ids';
import { log } from '../log';
import type { SpooledClick } from '../links/clicks';
import type { ShortLinkBook } from '../links/short-link-book';
import { stateOf } from '../links/short-links';
import { isPassFor, makePass } from '../secrets';
import { readBody } from './bodies';
import { clientAddress } from './client-address';
import { reply } from './reply';

const formLimit = 2048;
/** Each opening is to be counted, so none is answered from a cache; 301 is remembered all the same, that is its sense. */
const always = { 'cache-control': 'no-store', 'x-robots-tag': 'noindex' };

/** Opens short links: leads on to the stored destination and counts the click, unless a program opened it. */
export function makeOpenShortLink(
  book: ShortLinkBook,
  spool: Spool,
  { secretKey, trustedProxies, edgeOrigin }: Pick<Config, 'secretKey' | 'trustedProxies' | 'edgeOrigin'>,
) {
  const tries = makePasswordTries();

  /** A person who opens one that leads nowhere reads why. @throws AVX_NOT_FOUND, AVX_SHORT_LINK_EXPIRED for programs */
  return async function open(
    request: IncomingMessage,
    response: ServerResponse,
    business: KnownBusiness,
    path: string,
  ): Promise<void> {
    try {
      await lead(request, response, business, path);
    } catch (thrown) {
      const error = asAvrixError(thrown);
      if (!error || !String(request.headers.accept).includes('text/html')) throw thrown;
      reply(response, error.status, { ...always, ...pageHeaders() }, page(`<p>${error.message}</p>`));
    }
  };

  async function lead(request: IncomingMessage, response: ServerResponse, business: KnownBusiness, path: string) {
    const link = await book.find(business.id, path.toLowerCase());
    if (!link) throw new AvrixError('AVX_NOT_FOUND', { what: 'short link' });
    if (stateOf(link) !== 'open') throw new AvrixError('AVX_SHORT_LINK_EXPIRED', { path });
    const from = link.passwordHash ? await letIn(request, response, link) : cameFrom(request);
    if (from === null) return;
    const [, query = ''] = (request.url ?? '').split(/\?(.*)/s);
    const location = openShortLink(link.destination, query, link.wins);
    await count(request, business, link, { location, referrer: from });
    // After a form was sent the next page is asked for with GET.
    reply(response, request.method === 'POST' ? 303 : link.status, { ...always, location });
  }

  /** Where somebody who knows the password came from; null where it was asked for. */
  async function letIn(request: IncomingMessage, response: ServerResponse, link: ShortLinkRow): Promise<string | null> {
    const form = request.method === 'POST' ? new URLSearchParams(await readBody(request, formLimit)) : null;
    const given = form?.get('password') ?? null;
    const from = form?.get('from') ?? cameFrom(request).slice(0, longestFrom);
    if (given !== null) {
      const subject = `short link ${link.id} ${link.passwordHash}`;
      const pass = parseCookieText(request.headers.cookie ?? '')[passCookie] ?? '';
      const known = isPassFor(secretKey, subject, pass) ? pass : null;
      // Counted before the password is looked at; a right one is taken off again.
      const rightTry = await tries.count(link.id, known ?? clientAddress(request, trustedProxies), known !== null);
      if (await verify(link.passwordHash!, given)) {
        rightTry();
        const path = (request.url ?? '').split('?')[0]!;
        const secure = edgeOrigin.startsWith('https:') ? '; Secure' : '';
        const kept = `; Path=${path}; Max-Age=${passDays * 86_400}; HttpOnly; SameSite=Lax${secure}`;
        response.setHeader('set-cookie', `${passCookie}=${makePass(secretKey, subject)}${kept}`);
        return from;
      }
    }
    reply(
      response,
      given === null ? 200 : 403,
      { ...always, ...pageHeaders(link.destination) },
      passwordPage(given !== null, from),
    );
    return null;
  }

  /** A click that cannot be kept must not keep anybody from the page. */
  async function count(
    request: IncomingMessage,
    business: KnownBusiness,
    link: ShortLinkRow,
    way: Pick<SpooledClick, 'location' | 'referrer'>,
  ) {
    const header = (name: string) => String(request.headers[name] ?? '');
    const click: SpooledClick = {
      business: business.id,
      click: newId(),
      shortLink: link.id,
      at: nowMs(),
      timeZone: business.timeZone,
      ...way,
      bot: request.method === 'HEAD' || /prefetch/.test(header('sec-purpose')) || isBot(header('user-agent')),
    };
    await spool
      .append(JSON.stringify(click))
      .catch((error: unknown) => log.warn({ error: (error as Error).message }, 'click could not be kept'));
  }
}

const cameFrom = (request: IncomingMessage): string => String(request.headers.referer ?? '').slice(0, 4000);

/** Characters of it that the form of a password takes along. */
const longestFrom = 1000;

/** By which a browser that knew a link's password before is known. */
const passCookie = 'avx_pass';
const passDays = 90;
const triesMinutes = 15;

/**
 * Counts tries at passwords of short links, in this process: 10 of one address and 100 at one link in a quarter of an
 * hour; those of a browser that knew it before by themselves.
 */
function makePasswordTries() {
  const duration = triesMinutes * 60;
  const byAddress = new RateLimiterMemory({ keyPrefix: 'address', points: 10, duration });
  const byLink = new RateLimiterMemory({ keyPrefix: 'link', points: 100, duration });
  return {
    /** @returns takes the try off again @throws AVX_SIGN_IN_SLOW_DOWN */
    async count(link: string, who: string, isKnown: boolean): Promise<() => void> {
      const counted: [RateLimiterMemory, string][] = [[byAddress, `${link} ${who}`]];
      if (!isKnown) counted.push([byLink, link]);
      for (const [limiter, key] of counted)
        await limiter.consume(key).catch(() => {
          throw new AvrixError('AVX_SIGN_IN_SLOW_DOWN', { minutes: triesMinutes });
        });
      return () => counted.forEach(([limiter, key]) => void limiter.reward(key));
    },
  };
}

/** A browser holds a form to its policy also where the answer sends on, so the destination stands in it. */
const pageHeaders = (destination?: string) => ({
  'content-type': 'text/html; charset=utf-8',
  // The page that is led to must not take this one, on the website's own host, for where somebody came from.
  'referrer-policy': 'no-referrer',
  'content-security-policy': `default-src 'none'; style-src 'unsafe-inline'; form-action 'self' ${destination ? new URL(destination).origin : ''}; frame-ancestors 'none'`,
});

const escaped = (text: string): string => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`);

/** `body` is made of our own words, of paths that hold letters, digits and hyphens only, and of what is escaped. */
const page = (body: string): string => `<!doctype html>
<html lang="en">
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Short link</title>
<style>body{font:16px/1.5 sans-serif;max-width:22rem;margin:20vh auto;padding:0 1rem}
input,button{font:inherit;padding:.4rem .6rem;width:100%;box-sizing:border-box;margin-top:.5rem}</style></head>
<body>${body}</body></html>`;

const passwordPage = (wrong: boolean, from: string): string =>
  page(`<form method="post"><input type="hidden" name="from" value="${escaped(from)}">
<label>This link asks for a password<input type="password" name="password" autofocus required></label>
${wrong ? '<p role="alert">That is not the password.</p>' : ''}<button>Go on</button>
</form>`);

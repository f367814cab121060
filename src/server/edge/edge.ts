import { edgeName } from './edge-name';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { asAvrixError, AvrixError } from '../../core/errors';
import { isUnder, splitAddress } from '../../core/capture';
import { carriedParameter } from '../../core/capture/elsewhere';
import type { Businesses, KnownBusiness } from '../businesses';
import type { makeCarried } from '../capture/carried';
import type { Collect } from '../capture/collect';
import type { makeCountLanding } from '../capture/counted-landings';
import type { makeTakeStopped } from '../capture/stopped-pages';
import type { makeCountRefusedBody } from '../capture/refused-bodies';
import { nowMs } from '../clock';
import type { Config } from '../config';
import type { makeTakeCalls } from '../leads/calls/take';
import type { CrmEvents } from '../leads/crm-events';
import type { makeTakeNotices } from '../outcomes/notices/take';
import type { makeTakeReply } from '../mail/replies';
import type { makeStopPage } from '../mail/stop-page';
import type { Accounts } from '../platforms/accounts';
import type { Releases } from '../releases/releases';
import { readBody } from './bodies';
import { clientAddress } from './client-address';
import { keptCookies } from './kept-cookies';
import { makeRateLimit } from './rate-limit';
import { reply, replyError, replyJson } from './reply';
import type { Trials } from '../capture/trials';
import type { makeOpenShortLink } from './short-links';
import { pointingPrefix, type Pointing } from '../events/pointing';
import type { makeSnippet } from './snippet';

const pageLimit = 32 * 1024;
const tooLarge = 'a page sent more than 32 KB at once';
const hookLimit = 64 * 1024;
const landingLimit = 2048;
const mailLimit = 2 ** 20;
const script = { 'content-type': 'text/javascript; charset=utf-8', 'access-control-allow-origin': '*' };

interface EdgeServices {
  config: Config;
  businesses: Businesses;
  collect: Collect;
  snippet: ReturnType<typeof makeSnippet>;
  accounts: Accounts;
  crmEvents: CrmEvents;
  takeCalls: ReturnType<typeof makeTakeCalls>;
  takeNotices: ReturnType<typeof makeTakeNotices>;
  takeReply: ReturnType<typeof makeTakeReply>;
  stopPage: ReturnType<typeof makeStopPage>;
  openShortLink: ReturnType<typeof makeOpenShortLink>;
  releases: Releases;
  carried: ReturnType<typeof makeCarried>;
  countLanding: ReturnType<typeof makeCountLanding>;
  countRefusedBody: ReturnType<typeof makeCountRefusedBody>;
  takeStopped: ReturnType<typeof makeTakeStopped>;
  trials: Trials;
  pointing: Pointing;
}

type Door = (request: IncomingMessage, response: ServerResponse, parts: string[]) => Promise<void>;

/** The public doors that must be fast. They answer before Astro sees a request. */
export function makeEdge(services: EdgeServices) {
  const {
    config,
    businesses,
    collect,
    snippet,
    accounts,
    crmEvents,
    takeCalls,
    takeNotices,
    takeReply,
    stopPage,
    openShortLink,
    releases,
    carried,
    countLanding,
    countRefusedBody,
    takeStopped,
    trials,
    pointing,
  } = services;

  async function businessOf(key: string | undefined): Promise<KnownBusiness> {
    const business = await businesses.byKey(key ?? '');
    if (!business) throw new AvrixError('AVX_BUSINESS_UNKNOWN', { business: key ?? '' });
    return business;
  }

  /** The address under which this request reached the edge: its own first-party host, or the shared one. */
  const originOf = (request: IncomingMessage) => {
    const host = request.headers.host ?? '';
    return host.startsWith('t.') ? `${config.edgeOrigin.split(':')[0]}://${host}` : config.edgeOrigin;
  };

  const addressOf = (request: IncomingMessage) => clientAddress(request, config.trustedProxies);
  const limit = makeRateLimit(config.collectPerMinute, addressOf);
  const doors: Record<string, Door> = {
    async b(request, response, [file]) {
      const business = await businessOf(file?.replace(/\.js$/, ''));
      const body = await snippet.loader(business, originOf(request));
      reply(response, 200, { ...script, 'cache-control': 'public, max-age=2' }, body);
    },

    async r(request, response, [key, file]) {
      const business = await businessOf(key);
      const number = Number(/^(\d{1,9})(?:-\w{1,16}){0,2}\.js$/.exec(file ?? '')?.[1]);
      if (!number) throw new AvrixError('AVX_NOT_FOUND', { what: 'release' });
      const body = await snippet.release(business, number, originOf(request));
      reply(response, 200, { ...script, 'cache-control': 'public, max-age=31536000, immutable' }, body);
    },

    async take(request, response, [key]) {
      const business = await businessOf(key);
      allowOwnHosts(request, response, business);
      if (request.method === 'OPTIONS') return reply(response, 204);
      await limit(request, response);
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'POST' });
      const agent = request.headers['user-agent'] ?? '';
      const address = addressOf(request);
      const body = await readBody(request, pageLimit).catch((error: unknown) => {
        if (asAvrixError(error)?.code === 'AVX_BODY_TOO_LARGE') void countRefusedBody(business.id, tooLarge);
        throw error;
      });
      const refused = await collect(business, body, { agent, address });
      await setCookiesAgain(request, response, business, body);
      if (refused.length === 0) reply(response, 204);
      else replyJson(response, 200, { refused });
    },

    /** Rules that are not live yet, for the browser that tries them; and what it tells. */
    async try(request, response, [first, second, key]) {
      if (second !== 'take' && second !== 'carry' && second !== 'count') {
        const business = await businessOf(first);
        const token = (second ?? '').replace(/\.js$/, '');
        if (token.startsWith(pointingPrefix)) {
          const body = await snippet.pointing(business, token, originOf(request));
          return reply(response, 200, { ...script, 'cache-control': 'no-store' }, body);
        }
        const body = await snippet.trial(business, await trials.rules(business.id, token), originOf(request));
        return reply(response, 200, { ...script, 'cache-control': 'no-store' }, body);
      }
      const known = key?.replace(/~try$/, '');
      // What goes along to other places is signed as ever; landings are not counted.
      if (second === 'carry') return doors.carry!(request, response, [known!]);
      const business = await businessOf(known);
      allowOwnHosts(request, response, business);
      if (request.method === 'OPTIONS') return reply(response, 204);
      await limit(request, response);
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'POST' });
      if (second === 'take') await trials.take(business.id, first ?? '', await readBody(request, pageLimit));
      reply(response, 204);
    },

    /** Tabs in which somebody points at what is to count. */
    async point(request, response, [key]) {
      const business = await businessOf(key);
      const isOwn = allowOwnHosts(request, response, business);
      if (request.method === 'OPTIONS') return reply(response, 204);
      await limit(request, response);
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'POST' });
      if (!isOwn) throw new AvrixError('AVX_NOT_FOUND', { what: 'website of the business' });
      replyJson(response, 200, await pointing.take(business.id, await readBody(request, pageLimit)));
    },

    /** Landings of people who did not agree: where from, and nothing else. */
    async count(request, response, [key]) {
      const business = await businessOf(key);
      allowOwnHosts(request, response, business);
      if (request.method === 'OPTIONS') return reply(response, 204);
      await limit(request, response);
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'POST' });
      await countLanding(business, await readBody(request, landingLimit));
      reply(response, 204);
    },

    /**
     * What browsers report of pages whose content security policy stops the snippet. Where a page may send nothing, the
     * report comes in the address of a script.
     */
    async stopped(request, response, [key]) {
      const business = await businessOf(key);
      allowOwnHosts(request, response, business);
      if (request.method === 'OPTIONS') return reply(response, 204);
      await limit(request, response);
      if (request.method === 'GET') {
        await takeStopped(business, new URLSearchParams((request.url ?? '').split('?')[1]).get('report') ?? '');
        return reply(response, 200, script, '');
      }
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'GET or POST' });
      await takeStopped(business, await readBody(request, pageLimit));
      reply(response, 204);
    },

    /**
     * Values for places outside: a page has them signed by POST and, where they came with an address, read by GET; a
     * place's own back end tells by `/carry/<business>/returned` that they came back.
     */
    async carry(request, response, [key, door]) {
      const business = await businessOf(key);
      allowOwnHosts(request, response, business);
      if (request.method === 'OPTIONS') return reply(response, 204);
      await limit(request, response);
      if (request.method === 'GET') {
        const signed = new URLSearchParams((request.url ?? '').split('?')[1]).get(carriedParameter) ?? '';
        return replyJson(response, 200, await carried.open(business, signed));
      }
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'GET or POST' });
      const body = await readBody(request, pageLimit);
      if (door !== 'returned')
        return reply(response, 200, { 'content-type': 'text/plain' }, await carried.sign(business, body));
      await carried.takeReturned(business, body);
      reply(response, 204);
    },

    /** `/go/<path>` on a business's own host, `/go/<business>/<path>` on the shared one. */
    async go(request, response, parts) {
      if (!/^(GET|HEAD|POST)$/.test(request.method ?? '')) throw new AvrixError('AVX_METHOD_WRONG', { fix: 'GET' });
      if (request.method === 'POST') await limit(request, response);
      const host = (request.headers.host ?? '').replace(/:\d+$/, '');
      const own = host.startsWith('t.') ? await businesses.byHost(host) : null;
      const [path = ''] = own ? parts : parts.slice(1);
      await openShortLink(request, response, own ?? (await businessOf(parts[0])), path);
    },

    async hook(request, response, [key, accountKey]) {
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'POST' });
      const business = await businessOf(key);
      const account = await accounts.byKey(business.id, accountKey ?? '');
      if (!account || account.retiredAt) throw new AvrixError('AVX_NOT_FOUND', { what: 'account' });
      const header = (name: string) => String(request.headers[name] ?? '');
      const body = await readBody(request, hookLimit);
      await crmEvents.take(account, body, header);
      reply(response, 204);
    },

    /** Calls, as a business's telephone system tells of them. */
    async calls(request, response, [key]) {
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'POST' });
      const business = await businessOf(key);
      await limit(request, response);
      const header = (name: string) => String(request.headers[name] ?? '');
      replyJson(response, 200, await takeCalls.webhook(business, await readBody(request, hookLimit), header));
    },

    /** What outside programs post of orders and subscriptions: a body, or a query alone. */
    async post(request, response, [key, sender, secret = '']) {
      const method = request.method ?? '';
      if (!/^(GET|POST)$/.test(method)) throw new AvrixError('AVX_METHOD_WRONG', { fix: 'GET or POST' });
      const business = await businessOf(key);
      await limit(request, response);
      const query = (request.url ?? '').split('?')[1] ?? '';
      const body = method === 'POST' ? await readBody(request, hookLimit) : '';
      const header = (name: string) => String(request.headers[name] ?? '');
      const posted = { body: body || `?${query}`, secret, header };
      replyJson(response, 200, await takeNotices(business, sender ?? '', posted));
    },

    /** Emails that came back, as a business's mail system passes them on. */
    async replies(request, response, [key]) {
      if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'POST' });
      const business = await businessOf(key);
      await limit(request, response);
      const proof = String(request.headers.authorization ?? '');
      replyJson(response, 200, await takeReply(business.id, await readBody(request, mailLimit), proof));
    },

    /** Where people stop emails. */
    async stop(request, response, [key, token]) {
      const business = await businessOf(key);
      await limit(request, response);
      await stopPage(request, response, business, token ?? '');
    },

    async health(_request, response) {
      reply(response, 200, { 'content-type': 'text/plain' }, `alive ${edgeName(config.secretKey)}`);
    },
  };

  // Snippets of before stand in caches for as long as a year.
  doors.collect = doors.take!;

  /**
   * Where the release says so, the website's own subdomain sets the cookies that came with a hit again, as they are:
   * browsers that end cookies of scripts after 7 days let those of servers be. After a "no" none are set.
   */
  async function setCookiesAgain(
    request: IncomingMessage,
    response: ServerResponse,
    business: KnownBusiness,
    body: string,
  ) {
    const { capture } = (await releases.live(business.id)).content;
    if (capture.keep.setBy !== 'server' || body.includes('"measurement":"no"')) return;
    const secure = config.edgeOrigin.startsWith('https:');
    const cookies = keptCookies(request.headers.cookie ?? '', request.headers.host ?? '', capture, nowMs(), secure);
    if (cookies.length > 0) response.setHeader('set-cookie', cookies);
  }

  return async function edge(request: IncomingMessage, response: ServerResponse): Promise<void> {
    try {
      const [door = '', ...parts] = (request.url ?? '/').split('?')[0]!.split('/').slice(1);
      const open = Object.hasOwn(doors, door) ? doors[door] : undefined;
      if (!open) throw new AvrixError('AVX_NOT_FOUND', { what: 'door' });
      await open(request, response, parts);
    } catch (error) {
      replyError(response, error);
    }
  };
}

/** CORS for the business's own hosts, with credentials; every other origin gets none. @returns whether it is one of them */
function allowOwnHosts(request: IncomingMessage, response: ServerResponse, business: KnownBusiness): boolean {
  const { origin } = request.headers;
  const host = splitAddress(origin ?? '')?.host ?? '';
  response.setHeader('vary', 'Origin');
  if (!business.websites.some((website) => isUnder(host, website.registrable))) return false;
  response.setHeader('access-control-allow-origin', origin!);
  response.setHeader('access-control-allow-credentials', 'true');
  response.setHeader('access-control-allow-headers', 'content-type');
  return true;
}

import type { IncomingMessage, ServerResponse } from 'node:http';
import { AvrixError } from '../../core/errors';
import { escapeHtml } from '../../core/escape-html';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction } from '../db';
import { reply } from '../edge/reply';
import { stopMail } from './stops';
import { readUnsubscribe } from './unsubscribe';

/** A page that needs nothing else, in the language of the emails' own line. */
const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><meta name="robots" content="noindex">
<title>${title}</title></head>
<body><main><h1>${title}</h1>${body}</main></body></html>`;
const html = {
  'content-type': 'text/html; charset=utf-8',
  'cache-control': 'no-store',
  'referrer-policy': 'no-referrer',
  'content-security-policy': "default-src 'none'; form-action 'self'; frame-ancestors 'none'",
};

/**
 * Where people stop emails. Opening the page changes nothing, since programs that look at links open it too; the press of its
 * button does, and so does a mail program's own (RFC 8058).
 *
 * @throws AVX_NOT_FOUND where the address was made up
 */
export const makeStopPage = (context: Context) =>
  async function stopPage(
    request: IncomingMessage,
    response: ServerResponse,
    business: { id: string; name: string },
    token: string,
  ): Promise<void> {
    const { db, tables, config } = context;
    const id = readUnsubscribe(config.secretKey, token);
    const where = { businessId: business.id, id: id ?? '' };
    const act = id && (await tables.routineActs.findOne({ where }))?.get({ plain: true });
    if (!act || act.mailHash === '') throw new AvrixError('AVX_NOT_FOUND', { what: 'email' });
    const name = escapeHtml(business.name);
    if (request.method === 'GET' || request.method === 'HEAD')
      return reply(
        response,
        200,
        html,
        page(`Stop emails from ${name}?`, '<form method="post"><button>Stop emails</button></form>'),
      );
    if (request.method !== 'POST') throw new AvrixError('AVX_METHOD_WRONG', { fix: 'GET or POST' });
    await inTransaction(db, async (transaction) => {
      await stopMail(context, business.id, act.mailHash, 'link', '', transaction);
      await tables.routineRuns.update(
        { state: 'let_go', why: 'unsubscribed', endedAt: now(), dueAt: null },
        { where: { businessId: business.id, id: act.runId, state: 'going' }, transaction },
      );
    });
    return reply(response, 200, html, page('No more of these emails', `<p>${name} sends you none any more.</p>`));
  };

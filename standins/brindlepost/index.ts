import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import { postJson } from '../shared/call';
import { makeFaults } from '../shared/faults';
import { makeKeys } from '../shared/keys';
import { page } from '../shared/page';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { styles } from './styles';
import { bounceOf, replyTo } from './replies';
import { makeIntake, type Letter } from './smtp';

/** What is passed on to whoever a customer named: an email as it came. */
interface PassedOn extends Delivery {
  body: string;
}

const sendSchema = z.object({
  kind: z.enum(['reply', 'away', 'bounce']),
  text: z.string().max(4000).default(''),
});

/**
 * Brindlepost, a mail service: takes emails over SMTP for who signs in, shows each as it came, and passes replies on, as the
 * people who got them write them on its page.
 */
export function makeBrindlepost(surroundings: Surroundings): Standin & { listen(): Promise<void>; close(): void } {
  const store = surroundings.storeOf('brindlepost');
  const letters = store.rows<Letter>('letters');
  const targets = store.rows<{ id: string; url: string; secret: string }>('reply target');
  const passed = store.rows<PassedOn>('passed on');
  const target = () =>
    targets.get('target') ?? {
      url: surroundings.replies,
      secret: surroundings.key('brindlepost replies secret'),
    };
  const deliveries = makeDeliveries(passed, ({ body }) =>
    postJson(target().url, { authorization: `Bearer ${target().secret}`, 'content-type': 'message/rfc822' }, body),
  );
  const faults = makeFaults(store);
  const keys = makeKeys(store, [surroundings.key('brindlepost password')]);
  const intake = makeIntake(letters, faults, keys);
  const app = new Hono();
  const frame = (body: unknown) => page('Brindlepost', styles, html`<main>${body}</main>`);
  const short = (iso: string) => iso.slice(0, 16).replace('T', ' ');

  app.get('/', (c) => c.redirect('/letters', 302));
  app.get('/letters', (c) => {
    const all = letters.all();
    const { url } = target();
    return c.html(
      frame(
        html`<h1>${all.length} taken</h1>
          <table id="letters">
            ${all
              .toReversed()
              .slice(0, 60)
              .map(
                ({ id, at, to, subject, refused }) =>
                  html`<tr>
                    <td>${short(at)}</td>
                    <td>${to}</td>
                    <td><a href="/letters/${id}">${subject}</a></td>
                    <td>${refused}</td>
                  </tr>`,
              )}
          </table>
          <form method="post" action="/target">
            <label>Replies go to <input name="url" size="50" value="${url}" /></label>
            <label>secret <input name="secret" size="20" autocomplete="off" /></label>
            <button>Save</button>
          </form>
          ${keys.form('/keys')} ${faults.form('/faults')}`,
      ),
    );
  });
  app.get('/letters.json', (c) => c.json({ letters: letters.all() }));
  app.get('/letters/:id', (c) => {
    const letter = letters.get(c.req.param('id'));
    if (!letter) return c.notFound();
    return c.html(
      frame(
        html`<p><a href="/letters">All</a></p>
          <h1>${letter.subject}</h1>
          <p>From ${letter.from} to ${letter.to}, ${short(letter.at)}</p>
          <pre id="text">${letter.text}</pre>
          <form method="post" action="/letters/${letter.id}/answer">
            <label
              >Who got it
              <select name="kind">
                <option value="reply">writes back</option>
                <option value="away">is away, says a program</option>
                <option value="bounce">is not there</option>
              </select></label
            >
            <textarea name="text" rows="4" cols="60" aria-label="What they write">
Thank you, Tuesday suits us.</textarea>
            <button>Send</button>
          </form>
          <h2>As it came</h2>
          <pre>${letter.source}</pre>`,
      ),
    );
  });
  app.post('/letters/:id/answer', async (c) => {
    const letter = letters.get(c.req.param('id'));
    if (!letter) return c.notFound();
    const given = sendSchema.safeParse(await c.req.parseBody());
    if (!given.success) return c.text('kind: must be reply, away or bounce', 422);
    const { kind, text } = given.data;
    const body = kind === 'bounce' ? bounceOf(letter) : replyTo(letter, text, kind === 'away');
    if (target().url) deliveries.add({ id: `${letter.id} ${passed.made() + 1}`, body });
    return c.redirect('/letters', 303);
  });
  app.post('/target', async (c) => {
    const { url, secret } = (await c.req.parseBody()) as Record<string, string>;
    targets.put({ id: 'target', url: url ?? '', secret: secret || target().secret });
    return c.redirect('/letters', 303);
  });
  app.post('/keys', (c) => c.html(frame(keys.fresh(keys.make(), '/letters'))));
  app.post('/faults', async (c) => {
    const wrong = faults.set(await c.req.parseBody());
    return wrong ? c.text(wrong, 422) : c.redirect('/letters', 303);
  });

  return {
    name: 'brindlepost',
    words: 'Brindlepost, a mail service',
    app,
    rest: deliveries.rest,
    listen: () => intake.listen(surroundings.smtpPort),
    close: intake.close,
  };
}

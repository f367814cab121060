import { Hono } from 'hono';
import { html, raw } from 'hono/html';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { styles } from './styles';

/** Larkmoor's second website, with the offers that sales sends out. It has the pasted line and a form of its own. */
export function makeLarkmoorFleet(surroundings: Surroundings): Standin {
  const app = new Hono();
  const page = (title: string, body: unknown) =>
    html`<!doctype html>
      <html lang="en">
        <head>
          <meta charset="utf-8" />
          <meta name="viewport" content="width=device-width" />
          <title>${title} · Larkmoor Fleet</title>
          <style>
            ${raw(styles)}
          </style>
          ${surroundings.fleetScript ? html`<script src="${surroundings.fleetScript}" async></script>` : ''}
        </head>
        <body>
          <header><a href="/offer" class="mark">Larkmoor Fleet</a></header>
          <main class="words">${body}</main>
          <footer>Larkmoor Cargo Bikes, 4 Ropewalk, Penmarrow</footer>
        </body>
      </html>`;
  const hidden = ['click_id', 'source', 'campaign', 'avx_lead'];

  app.get('/', (c) => c.redirect('/offer', 302));
  app.get('/offer', (c) =>
    c.html(
      page(
        'A sample offer',
        html`<h1>Four bikes, thirty-six months.</h1>
          <p>£212 a month for each, tyres and a spare bike included.</p>
          <form name="offer" method="post" action="/offer">
            <label>Email <input name="mail" type="email" required /></label>
            ${hidden.map((name) => html`<input type="hidden" name="${name}" value="" />`)}
            <button class="button">Send me this offer</button>
          </form>`,
      ),
    ),
  );
  app.post('/offer', (c) => c.html(page('On its way', html`<h1>The offer is on its way.</h1>`)));
  return { name: 'larkmoor-fleet', words: 'Larkmoor Fleet, the second website', app, rest: () => Promise.resolve() };
}

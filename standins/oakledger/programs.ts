import { html } from 'hono/html';
import type { Keys } from '../shared/keys';
import { frame } from './frame';
import type { makeHooks } from './hooks';

/** Where a program is let in, and where webhooks go. */
export const programsPage = (keys: Keys, hooks: ReturnType<typeof makeHooks>) =>
  frame(
    'Programs',
    html`<h1>Programs that speak to Oakledger</h1>
      <h2>Keys</h2>
      ${keys.form('/programs/keys')}
      <h2>Webhook</h2>
      <form method="post" action="/programs/hook">
        <label>Address <input name="url" size="60" value="${hooks.target()}" /></label>
        <label>Secret <input name="secret" size="40" value="" autocomplete="off" /></label>
        <button>Save</button>
      </form>`,
  );

export const keyPage = (keys: Keys) => frame('Key', html`${keys.fresh(keys.make(), '/programs')}`);

import { html } from 'hono/html';
import type { Keys } from '../shared/keys';
import { frame } from './frame';
import type { Deals } from './deals';
import type { makeHooks } from './hooks';

const names = (all: string[]) => all.map((name) => html`<option>${name}</option>`);

/** Where a program is let in, which fields there are, and where webhooks go. */
export const programsPage = (keys: Keys, hooks: ReturnType<typeof makeHooks>, deals: Deals) =>
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
      </form>
      <h2>Custom fields</h2>
      <form method="post" action="/programs/fields">
        <label
          >Delete
          <select name="deleted">
            ${names(Object.keys(deals.fields()))}
          </select></label
        >
        <button>Delete field</button>
      </form>
      ${
        deals.deletedFields().length > 0
          ? html`<form method="post" action="/programs/fields">
              <label
                >Make again
                <select name="made">
                  ${names(deals.deletedFields())}
                </select></label
              >
              <button>Make field</button>
            </form>`
          : ''
      }`,
  );

export const keyPage = (keys: Keys) => frame('Key', html`${keys.fresh(keys.make(), '/programs')}`);

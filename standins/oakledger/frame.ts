import { html } from 'hono/html';
import { page } from '../shared/page';
import { styles } from './styles';

/** What every page of Oakledger stands in. */
export const frame = (title: string, body: unknown) =>
  page(
    `${title} · Oakledger`,
    styles,
    html`<header>
        <a href="/">Oakledger</a
        ><span
          >Larkmoor Cargo Bikes · fleet sales · <a href="/campaigns">campaigns</a> ·
          <a href="/programs">programs</a></span
        >
      </header>
      <main>${body}</main>`,
  );

import { html, raw } from 'hono/html';
import type { FormName, Forms } from './forms';
import { shopList } from './shop';
import { styles } from './styles';

const bike =
  raw(`<svg viewBox="0 0 420 220" role="img" aria-label="A cargo bike with a box in front" fill="none" stroke="currentColor" stroke-width="5" stroke-linecap="round" stroke-linejoin="round">
<circle cx="338" cy="158" r="46"/><circle cx="78" cy="166" r="36"/><path d="M78 166h66l46-2 50-96 98 90M240 68l-12-26h-24M190 164l84-66M274 98l16-38m-22 0h44"/>
<path d="M36 62h118l-14 82H54z" fill="#c8552b" stroke="none"/><path d="M36 62h118" stroke="#fff6ea"/></svg>`);

/** One page with three steps that are no pages of their own; its form is drawn when its step is reached. */
const configurator = raw(`<main class="words"><h1>Put your bike together</h1><div id="step"></div></main>
<script>
  const steps = {
    '/configure': () => '<p>Which bike?</p><p><a class="button" href="/configure/box">The long one</a></p>',
    '/configure/box': () => '<p>Which box?</p><p><a class="button" href="/configure/ask">The one with the lid</a></p>',
    '/configure/ask': () => '<form name="configure"><label>Email <input name="mail" type="email"></label>'
      + ['click_id', 'source', 'campaign', 'avx_lead'].map((name) => '<input type="hidden" name="' + name + '">').join('')
      + '<button class="button">Send me the price</button></form>',
  };
  const draw = () => { document.getElementById('step').innerHTML = (steps[location.pathname] || steps['/configure'])(); };
  document.addEventListener('click', (event) => {
    const link = event.target.closest('#step a');
    if (!link) return;
    event.preventDefault();
    history.pushState(null, '', link.getAttribute('href'));
    draw();
  });
  document.addEventListener('submit', (event) => {
    if (event.target.name !== 'configure') return;
    event.preventDefault();
    document.getElementById('step').innerHTML = '<p>The price is on its way.</p>';
  });
  addEventListener('popstate', draw);
  draw();
</script>`);

const dealers = [
  ['york', 'Ouse Cycles, York'],
  ['cork', 'Lee Side Bikes, Cork'],
  ['delft', 'De Bakfiets, Delft'],
];
const dealerList = html`<ul>
  ${dealers.map(
    ([id, name]) =>
      html`<li>
        <a class="dealer" data-dealer="${id}" href="https://dealers.example/${id}?from=larkmoor">${name}</a>
      </li>`,
  )}
</ul>`;

/** Where the guide is taken: the page it moved from, and the one it is at now. */
const guideThanks = ['/guide/thanks', '/guide/ready'];

/** Where the website's pages lead to outside it. */
export interface Elsewhere {
  fleet: string;
  bellhour: string;
  fitting: string;
}

/** Every page of the website. @param head what the developer put into the head of every page, so many times */
export function makePages(head: (lines: number) => unknown, forms: Forms, faults: boolean, elsewhere: Elsewhere) {
  const frame = (title: string, body: unknown, lines = 1) =>
    html`<!doctype html>
      <html lang="en">
        <head>
          <meta charset="utf-8" />
          <meta name="viewport" content="width=device-width" />
          <title>${title} · Larkmoor Cargo Bikes</title>
          <style>
            ${raw(styles)}
          </style>
          ${head(lines)}
        </head>
        <body>
          <header>
            <a href="/" class="mark">Larkmoor</a>
            <nav>
              <a href="/fleet">Fleet</a><a href="/fleet/call-back">Call back</a><a href="/shop">Shop</a
              ><a href="/care">Care plan</a><a href="/dealers">Dealers</a>
            </nav>
          </header>
          ${body}
          <footer>
            Larkmoor Cargo Bikes, 4 Ropewalk, Penmarrow · <a href="tel:+441632960018">01632 960018</a
            ><small class="say"> Say <b class="call-code">hello</b></small>
          </footer>
        </body>
      </html>`;

  const words =
    (title: string, paragraphs: string[], lines = 1, more: unknown = '') =>
    () =>
      frame(
        title,
        html`<main class="words">
          <h1>${title}</h1>
          ${paragraphs.map((text) => html`<p>${text}</p>`)}
          <p><a class="button" href="/fleet">Ask for a test ride</a></p>
          ${more}
        </main>`,
        lines,
      );

  return {
    frame,
    fixed: {
      '/': () =>
        frame(
          'Electric cargo bikes for business',
          html`<main class="home">
            <div>
              <h1>The second van you do not buy.</h1>
              <p>
                Electric cargo bikes for bakeries, florists, couriers and trades. Lease by the month, with tyres,
                service and a spare bike the next day.
              </p>
              <p>
                <a class="button" href="/fleet">Ask for a test ride</a> <a href="/fleet/call-back">or a call back</a>
              </p>
            </div>
            ${bike}
          </main>`,
        ),
      '/shop': words(
        'Shop',
        ['Boxes, locks, rain covers and brake pads for every Larkmoor bike.', 'Sent the same day from Penmarrow.'],
        1,
        shopList,
      ),
      '/care': words(
        'Care plan',
        ['A mechanic at your shop every month, brakes and tyres included.', 'From £18 a month for each bike.'],
        1,
        html`<p><a class="button" href="/care/start">Start the plan</a></p>`,
      ),
      '/guide': words(
        'The Loading guide',
        ['How to load eighty kilos over the front wheel, and stop.', 'Twelve pages, with drawings.'],
        faults ? 0 : 1,
        // What a program that counted before left behind.
        html`<p>
          <a
            class="button"
            id="take-guide"
            href="${guideThanks[faults ? 1 : 0]}"
            onclick="window.tally && tally('guide-wanted')"
            >Take the guide</a
          >
        </p>`,
      ),
      '/fleet/lease': words(
        'How the lease works',
        ['Thirty-six months, one price, a new bike at the end.', 'You may hand it back after a year.'],
        faults ? 2 : 1,
        html`<p><a href="${elsewhere.fleet}/offer">See a sample offer</a></p>`,
      ),
      '/care/fitting': words(
        'A fitting at your shop',
        ['A mechanic measures your boxes and fits the locks.'],
        1,
        html`<iframe src="${elsewhere.fitting}/fitting" title="Ask for a fitting" width="560" height="320"></iframe>`,
      ),
      '/configure': () => frame('Put your bike together', configurator),
      '/configure/box': () => frame('Put your bike together', configurator),
      '/configure/ask': () => frame('Put your bike together', configurator),
      '/dealers': words('Where to see one', ['Ride it round the block before you decide.'], 1, dealerList),
      ...Object.fromEntries(guideThanks.map((path) => [path, words('The Loading guide is yours', ['Twelve pages.'])])),
      '/thank-you': words('Thank you, we have it', ['Someone from our fleet desk rings you within one working day.']),
    } as Record<string, () => ReturnType<typeof frame>>,

    form(name: FormName, sent: Record<string, string>, problems: string[]) {
      const { heading, under, button, hidden, path } = forms[name];
      const field = (key: string, label: string, type = 'text', usual = '') =>
        html`<label>${label} <input name="${key}" type="${type}" value="${sent[key] ?? usual}" /></label>`;
      return frame(
        heading,
        html`<main class="fleet">
          <div>
            <h1>${heading}</h1>
            <p>${under}</p>
            ${bike}
          </div>
          <form name="${name}" method="post" action="${path}">
            ${
              problems.length > 0
                ? html`<ul class="problems">
                    ${problems.map((text) => html`<li>${text}</li>`)}
                  </ul>`
                : ''
            }
            ${field('name', 'Your name')} ${field('company', 'Business')} ${field('mail', 'Email', 'email')}
            ${field('telephone', 'Telephone', 'tel')} ${field('bikes', 'How many bikes', 'number', '2')}
            ${hidden.map((key) => html`<input type="hidden" name="${key}" value="" />`)}
            <button class="button">${button}</button>
            ${
              name === 'call-back'
                ? html`<p>or <a href="${elsewhere.bellhour}/book/larkmoor">pick a time yourself</a></p>`
                : ''
            }
          </form>
        </main>`,
      );
    },

    missing: () => frame('No such page', html`<main class="words"><h1>This page does not exist.</h1></main>`),
  };
}

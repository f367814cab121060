import { randomUUID } from 'node:crypto';
import { Hono } from 'hono';
import { z } from 'zod';
import { makeDeliveries, type Delivery } from '../shared/deliveries';
import type { Standin } from '../shared/standin';
import type { Surroundings } from '../shared/surroundings';
import { formsOf, type FormName } from './forms';
import { makeCare } from './care';
import { toOakledger, toPlainCrm } from './crms';
import { makeOffice } from './office';
import { makePages } from './pages';
import { makeShop } from './shop';
import { makeSwitchboard } from './switchboard';
import { makeTill } from './till';

/** Profit over a three-year lease that the sales desk expects of one bike, in pounds. */
const profitOfBike = 180;

const visibleSchema = z.object({
  name: z.string().trim().min(1, 'your name is needed'),
  company: z.string().trim().max(80).default(''),
  mail: z.email('a mail address is needed, such as anna@bakery.example'),
  telephone: z.string().trim().max(40).default(''),
  bikes: z.coerce.number().int().min(1, 'at least one bike').max(200, 'at most 200 bikes').default(1),
});

interface Enquiry extends Delivery {
  body: string;
}

/** The Larkmoor website: pages with the pasted line, and forms whose plain back end posts to the CRM. */
export function makeLarkmoor(surroundings: Surroundings): Standin {
  const store = surroundings.storeOf('larkmoor');
  const toCrm = { oakledger: toOakledger(surroundings), 'plain-crm': toPlainCrm(surroundings) };
  const enquiries = makeDeliveries(store.rows<Enquiry>('enquiries'), ({ body }) => toCrm[office.crm()](body));
  const forms = formsOf(surroundings.faults);
  const office = makeOffice(store, surroundings.script);
  const pages = makePages(office.head, forms, surroundings.faults, {
    fleet: surroundings.originOf('larkmoor-fleet'),
    bellhour: surroundings.originOf('bellhour'),
    fitting: surroundings.originOf('bellhour').replace('bellhour.', 'fitting.bellhour.'),
  });
  const switchboard = makeSwitchboard(store, surroundings.calls, surroundings.key('larkmoor switchboard secret'));
  const app = new Hono();
  app.route('/office', office.pages(pages.frame));
  app.route('/switchboard', switchboard.pages(pages.frame));
  const shop = makeShop(store, pages.frame);
  const till = makeTill(store, shop.paid, () => care.plans());
  const care = makeCare(store, pages.frame, till.started);
  app.route('/till', till.pages(pages.frame));
  app.route('/', shop.app);
  app.route('/', care.app);

  for (const [path, page] of Object.entries(pages.fixed)) app.get(path, (c) => c.html(page()));
  for (const name of Object.keys(forms) as FormName[]) {
    const { path, hidden } = forms[name];
    app.get(path, (c) => c.html(pages.form(name, {}, [])));
    app.post(path, async (c) => {
      const sent = await c.req.parseBody<Record<string, string>>();
      const given = visibleSchema.safeParse(sent);
      if (!given.success)
        return c.html(
          pages.form(
            name,
            sent,
            given.error.issues.map((issue) => issue.message),
          ),
          422,
        );
      const { bikes, ...person } = given.data;
      const body = JSON.stringify({
        person,
        fields: Object.fromEntries(hidden.map((field) => [field, sent[field] ?? ''])),
        amounts: { lease_profit: { amount: String(bikes * profitOfBike), currency: 'GBP' } },
      });
      enquiries.add({ id: randomUUID(), body });
      return c.redirect('/thank-you', 303);
    });
  }
  // The page moved; whoever moved it forgot what stands behind the question mark.
  app.get('/bakery', (c) => c.redirect(surroundings.faults ? '/fleet' : `/fleet${new URL(c.req.url).search}`, 302));
  const rest = async () => {
    await enquiries.rest();
    await switchboard.rest();
    await till.rest();
  };
  app.notFound((c) => c.html(pages.missing(), 404));
  return { name: 'larkmoor', words: 'Larkmoor, the website', app, rest };
}

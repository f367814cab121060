import type { Host, MakePart } from '../part';

/** What a page says with `avrix:tell` when it sends a form by itself, and what it is answered in the same object. */
interface Told {
  form: string;
  /** Names of what it sends. */
  fields?: string[];
  leadToken?: string;
  /** What the release's fill rules have for the form, by their fields. */
  values?: Record<string, string>;
}

/**
 * Forms that are sent without a `submit` that anybody hears of: by `form.submit()`, and by a script that reads the form
 * and sends it. That a form was sent is known from its lead token, which leaves the page.
 */
export const part: MakePart = ({ setup, listen, later, newId }) => ({
  work(host) {
    const { tokens, onRoot, onEnd } = host;
    let ended = false;
    onEnd(() => (ended = true));

    const sentByScript = (form: HTMLFormElement) => {
      host.sent(form);
      // It may be sent again without another page being loaded.
      later(() => tokens.renew(form));
    };
    /** Looks for lead tokens in what leaves the page. */
    const leaves = (body: unknown) => {
      const waiting = tokens.waiting();
      const text = waiting.length > 0 ? textOf(body) : '';
      for (const [token, form] of waiting) if (text.includes(token)) sentByScript(form);
    };

    onRoot((root) => {
      onEnd(listen(root, 'formdata', (event) => fillData(event as FormDataEvent, host)));
      const view = (root as Document).defaultView as (Window & typeof globalThis) | null | undefined;
      if (!view) return;
      const see = makeSee(() => !ended && !host.looksItself(root));
      see(view, 'fetch', (_, [, options]) => leaves((options as RequestInit | undefined)?.body));
      see(view.XMLHttpRequest.prototype, 'send', (_, [body]) => leaves(body));
      see(view.navigator, 'sendBeacon', (_, [, body]) => leaves(body));
      see(view.HTMLFormElement.prototype, 'submit', (self) => {
        const form = self as HTMLFormElement;
        // Many pages hear a form's `submit`, look at it, and send it by themselves.
        if (!tokens.isTold(form)) sentByScript(form);
      });
      // Where a page stops `submit` before anybody hears of it, the browser still goes where the form leads.
      const { navigation } = view as { navigation?: EventTarget };
      if (navigation)
        listen(navigation, 'navigate', (event) => {
          const { formData, destination } = event as Event & { formData?: FormData; destination: { url: string } };
          if (!ended) leaves(textOf(formData) + destination.url);
        });
    });

    /** Tells of a form that the page sends by itself, and answers with its token and what its fields would hold. */
    const answer = (told: Told) => {
      if (!told.form) return;
      const form = String(told.form);
      const names = setup.rules.fill.map(({ field }) => field);
      const { fills, report } = host.decide({
        name: form,
        page: location.pathname,
        fields: names.map((name) => ({ name, id: name, label: name, hidden: true, value: '' })),
        matches: (field, selector) => names[field] === selector,
      });
      told.leadToken = newId();
      told.values = Object.fromEntries(fills.map(({ field, value }) => [names[field]!, value]));
      const fields = [...(told.fields ?? names)].map((name) => String(name).slice(0, 120));
      host.sentAs(form, told.leadToken, fields, report);
    };
    onEnd(listen(document, 'avrix:tell', (event) => answer((event as CustomEvent<Told>).detail)));
  },
});

/** The text of what a page's own script sends; '' for what cannot be read. */
export function textOf(body: unknown): string {
  if (typeof body === 'string') return body;
  const pairs = body as FormData | null | undefined;
  return typeof pairs === 'object' && pairs && 'getAll' in pairs ? [...pairs].join() : '';
}

/** A form that was not looked at yet is filled as it is read. */
function fillData({ target, formData }: FormDataEvent, { prepare, fieldsOf }: Host): void {
  const form = target as HTMLFormElement;
  const before = fieldsOf(form).map(({ value }) => value);
  prepare(form);
  fieldsOf(form).forEach(({ name, value }, i) => {
    if (name && value !== before[i]) formData.set(name, value);
  });
}

/** Has what a function of the page is given seen first; whatever goes wrong in that, the page's own call goes on. */
function makeSee(isOn: () => boolean) {
  return (owner: object, name: string, look: (self: unknown, given: unknown[]) => void): void => {
    const functions = owner as Record<string, ((...given: unknown[]) => unknown) | undefined>;
    const own = functions[name];
    if (!own) return;
    functions[name] = function (this: unknown, ...given: unknown[]) {
      try {
        if (isOn()) look(this, given);
      } catch {
        // Nothing to be done.
      }
      return own.apply(this, given);
    };
  };
}

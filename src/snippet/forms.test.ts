import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nothingKept, type Kept } from '../core/capture';
import { fillRule, rules as fixture, start } from '../core/capture/rules.fixture';
import { allForms, describeForm, describeSending, documents, fillForm, isFollowed, runsHere } from './forms';

interface Made {
  name?: string;
  id?: string;
  type?: string;
  value?: string;
  label?: string;
  classes?: string;
}
/** A field as a browser has it, as far as the snippet looks. */
function field({ name = '', id = '', type = 'hidden', value = '', label, classes = '' }: Made) {
  const heard: string[] = [];
  return {
    ...{ name, id, type, value, heard },
    labels: label === undefined ? null : [{ textContent: label }],
    getAttribute: (attribute: string) => (attribute === 'name' && name ? name : null),
    dispatchEvent: (event: { type: string }) => heard.push(event.type) > 0,
    matches(selector: string) {
      if (selector.startsWith('!')) throw new SyntaxError('no selector');
      return selector === `.${classes}`;
    },
  };
}
type Field = ReturnType<typeof field>;
const form = (elements: Field[], { name = 'test-ride', id = '' } = {}) =>
  ({
    elements,
    id,
    getAttribute: (attribute: string) => (attribute === 'name' ? name : id) || null,
  }) as unknown as HTMLFormElement;
const page = (...forms: HTMLFormElement[]) => ({ forms }) as unknown as Document;

const kept: Kept = {
  ...nothingKept(),
  clicks: [{ platform: 'quillsearch', clickId: 'Q1', at: start }],
};
const rules = { ...fixture, fill: [fillRule({ id: 'r', field: 'click_id', reading: 'click_id' })] };
const ruled = (rule: Parameters<typeof fillRule>[0]) => ({ ...rules, fill: [fillRule(rule)] });

beforeEach(() => vi.stubGlobal('location', { pathname: '/fleet' }));
afterEach(() => vi.unstubAllGlobals());

describe('a form of the page', () => {
  it('is filled, and programs that drew it hear of it once', () => {
    const clickId = field({ name: 'click_id' });
    const one = form([field({ name: 'mail', type: 'email' }), clickId]);
    expect(fillForm(one, kept, rules)).toMatchObject([{ rule: 'r', state: 'filled', value: 'Q1' }]);
    fillForm(one, kept, rules);
    expect([clickId.value, clickId.heard]).toEqual(['Q1', ['input', 'change']]);
  });

  it.each([
    ['a field a visitor types into', { name: 'click_id', type: 'text' }, true],
    ['a password', { name: 'click_id', type: 'password' }, false],
    ['a tick box', { name: 'click_id', type: 'checkbox' }, false],
    ['a mail address', { name: 'click_id', type: 'email' }, false],
  ])('with %s', (_, made, fills) => {
    const one = field(made);
    fillForm(form([one]), kept, rules);
    expect(one.value).toBe(fills ? 'Q1' : '');
  });

  it('has its fields found by ID, label and selector, and a selector that is none finds nothing', () => {
    const cases = [
      [{ find: 'id', field: 'ref-7' }, { id: 'ref-7' }, 'filled'],
      [{ find: 'label', field: 'Reference' }, { label: ' reference: ' }, 'filled'],
      [{ find: 'selector', field: '.ref' }, { classes: 'ref' }, 'filled'],
      [{ find: 'selector', field: '!' }, { classes: 'ref' }, 'not_found'],
    ] as const;
    for (const [rule, made, state] of cases) {
      const [line] = fillForm(form([field(made)]), kept, ruled({ id: 'r', reading: 'click_id', ...rule }));
      expect([rule.field, line!.state]).toEqual([rule.field, state]);
    }
  });

  it('is left alone on pages that a rule is not for', () => {
    const one = field({ name: 'click_id' });
    expect(
      fillForm(form([one]), kept, ruled({ id: 'r', field: 'click_id', reading: 'click_id', pages: ['/shop'] })),
    ).toEqual([]);
    expect(one.value).toBe('');
  });

  it('is followed by its name, else its ID', () => {
    expect(isFollowed(form([]), rules)).toBe(true);
    expect(isFollowed(form([], { name: '', id: 'test-ride' }), rules)).toBe(true);
    expect(isFollowed(form([], { name: 'letter' }), rules)).toBe(false);
  });
});

describe('what is told of a form', () => {
  const typed = field({ name: 'mail', type: 'email', value: 'anna@bakery.example' });

  it('that stands there is the names of its fields and what rules find, no contents', () => {
    const one = form([typed, field({ name: 'click_id', value: 'secret' }), field({ name: '' })]);
    const told = describeForm(one, fillForm(one, kept, rules));
    expect(told).toEqual({
      form: 'test-ride',
      fields: [
        { name: 'mail', hidden: false },
        { name: 'click_id', hidden: true },
      ],
      fills: [{ rule: 'r', field: 'click_id', near: '', state: 'filled' }],
    });
    expect(JSON.stringify(told)).not.toMatch(/anna|secret|Q1/);
  });

  it('that is very large is cut to what a hit holds', () => {
    const one = form(Array.from({ length: 90 }, (_, n) => field({ name: `${n} ${'x'.repeat(200)}` })));
    const { fields } = describeForm(one, []);
    expect([fields.length, fields[0]!.name.length]).toEqual([60, 120]);
  });

  it('that is being sent says each name once and carries a lead token, where there is a field for it', () => {
    const token = field({ name: 'avx_lead' });
    const one = form([typed, field({ name: 'size' }), field({ name: 'size' }), token, field({ name: 'click_id' })]);
    const told = describeSending(one, 'token-7', kept, rules);
    expect(told).toMatchObject({ form: 'test-ride', fields: ['mail', 'size', 'avx_lead', 'click_id'] });
    expect([token.value, JSON.stringify(told).includes('token-7')]).toEqual(['token-7', false]);
  });
});

describe('a form whose fields hide its own properties', () => {
  afterEach(() => vi.resetModules());

  it('is read by the browser’s own ways, and keeps no other from being filled', async () => {
    const real = new WeakMap<object, { fields: Field[]; attributes: Record<string, string> }>();
    class Element {
      getAttribute(attribute: string) {
        return real.get(this)?.attributes[attribute] ?? null;
      }
    }
    class HTMLFormElement extends Element {
      get elements() {
        return real.get(this)?.fields ?? [];
      }
    }
    vi.stubGlobal('Element', Element);
    vi.stubGlobal('HTMLFormElement', HTMLFormElement);
    vi.resetModules();
    const { describeForm: describeIt, fillForm: fillIt } = await import('./forms');
    const clickId = field({ name: 'click_id' });
    const hidden = Object.fromEntries(
      ['id', 'name', 'elements', 'getAttribute'].map((name) => [name, { value: clickId }]),
    );
    const one = Object.defineProperties(new HTMLFormElement(), hidden) as unknown as globalThis.HTMLFormElement;
    real.set(one, { fields: [clickId], attributes: { id: 'test-ride' } });
    const report = fillIt(one, kept, rules);
    expect([report[0]!.state, clickId.value, describeIt(one, report).form]).toEqual(['filled', 'Q1', 'test-ride']);
  });
});

describe('the forms of a page', () => {
  it('are its own and those of frames that may be looked into', () => {
    const [own, framed] = [form([]), form([], { name: 'framed' })];
    const foreign = {
      get document(): Document {
        throw new Error('of another origin');
      },
    };
    vi.stubGlobal('document', page(own));
    vi.stubGlobal('frames', { length: 2, 0: foreign, 1: { document: page(framed) } });
    expect(allForms()).toEqual([own, framed]);
    expect(documents()).toHaveLength(2);
    vi.stubGlobal('frames', { length: 1, 0: { document: page(framed), [runsHere]: true } });
    expect(allForms(), 'one that runs the snippet itself tells of its own').toEqual([own]);
  });
});

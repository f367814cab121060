import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nothingKept, type Kept } from '../core/capture';
import { fillRule, rules as fixture, start } from '../core/capture/rules.fixture';
import { fieldNames, fillForm, isFollowed, makeTokens } from './forms';
import { nameOf } from './natives';

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
    name,
    id,
    type,
    value,
    heard,
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
    const followed = (one: HTMLFormElement) => isFollowed(nameOf(one), rules);
    expect(followed(form([]))).toBe(true);
    expect(followed(form([], { name: '', id: 'test-ride' }))).toBe(true);
    expect(followed(form([], { name: 'letter' }))).toBe(false);
  });

  it('says each name of a field once, cut to what a hit holds', () => {
    const one = form([field({ name: 'mail', type: 'email' }), field({ name: 'size' }), field({ name: 'size' })]);
    expect(fieldNames(one)).toEqual(['mail', 'size']);
    expect(fieldNames(form([field({ name: 'x'.repeat(200) }), field({})]))).toEqual(['x'.repeat(120)]);
  });
});

describe('lead tokens', () => {
  const made = () => {
    let count = 0;
    const token = field({ name: 'avx_lead' });
    return { token, one: form([token]), tokens: makeTokens(() => `token-${++count}`) };
  };

  it('wait in their forms, one for each sending, and are told of once', () => {
    const { token, one, tokens } = made();
    tokens.ready(one);
    tokens.ready(one);
    expect([token.value, token.heard, tokens.waiting()]).toEqual(['token-1', ['input', 'change'], [['token-1', one]]]);
    expect([tokens.isTold(one), tokens.take(one), tokens.isTold(one)]).toEqual([false, 'token-1', true]);
    tokens.ready(one);
    expect([token.value, tokens.waiting()], 'what was told may still be read').toEqual(['token-1', []]);
    expect([tokens.take(one), token.value]).toEqual(['token-2', 'token-2']);
  });

  it('take the place of what stood there from elsewhere', () => {
    const { token, one, tokens } = made();
    token.value = 'of a page from the cache';
    expect([tokens.take(one), token.value]).toEqual(['token-1', 'token-1']);
  });

  it('are made at the moment of sending for a form without a field for one', () => {
    const { tokens } = made();
    const one = form([field({ name: 'mail' })]);
    tokens.ready(one);
    expect([tokens.waiting(), tokens.isTold(one), tokens.take(one), tokens.isTold(one)]).toEqual([
      [],
      false,
      'token-1',
      true,
    ]);
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
    const { fillForm: fillIt } = await import('./forms');
    const { nameOf: nameIt } = await import('./natives');
    const clickId = field({ name: 'click_id' });
    const hidden = Object.fromEntries(
      ['id', 'name', 'elements', 'getAttribute'].map((name) => [name, { value: clickId }]),
    );
    const one = Object.defineProperties(new HTMLFormElement(), hidden) as unknown as globalThis.HTMLFormElement;
    real.set(one, { fields: [clickId], attributes: { id: 'test-ride' } });
    const report = fillIt(one, kept, rules);
    expect([report[0]!.state, clickId.value, nameIt(one)]).toEqual(['filled', 'Q1', 'test-ride']);
  });
});

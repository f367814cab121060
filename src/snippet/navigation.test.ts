import { afterEach, describe, expect, it, vi } from 'vitest';
import { watchAddress } from './navigation';
import type { Tools } from './tools';

afterEach(() => vi.unstubAllGlobals());

/** A page as a browser has it, as far as addresses go. */
function browse(href: string) {
  const location = { href };
  const heard: (() => void)[] = [];
  const history = {
    pushState(_state: unknown, _title: string, to: string) {
      location.href = new URL(to, location.href).href;
    },
  };
  vi.stubGlobal('location', location);
  vi.stubGlobal('history', history);
  const listen = (_target: EventTarget, _name: string, listener: () => void) => (heard.push(listener), () => undefined);
  const from: string[] = [];
  watchAddress({ listen: listen as Tools['listen'] }, (before, by) => from.push(`${before} ${by}`));
  return {
    from,
    push: (to: string) => history.pushState(null, '', to),
    back(to: string) {
      location.href = to;
      heard.forEach((listener) => listener());
    },
  };
}

describe('a page that changes its address by itself', () => {
  it('is heard of with the address before and how, so that Back is a step through the history', () => {
    const { from, push, back } = browse('http://l.example/a?x=1#top');
    push('/b');
    push('/c');
    back('http://l.example/b');
    expect(from).toEqual([
      'http://l.example/a?x=1 navigate',
      'http://l.example/b navigate',
      'http://l.example/c back_forward',
    ]);
  });

  it('is the same page where only the fragment changes, or nothing does', () => {
    const { from, push, back } = browse('http://l.example/a');
    push('#below');
    push('/a');
    back('http://l.example/a#top');
    expect(from).toEqual([]);
  });
});

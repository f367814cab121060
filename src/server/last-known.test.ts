import { describe, expect, it } from 'vitest';
import { makeLastKnown } from './last-known';

/** A reader that can be held, made to fail, and counts how often it was asked. */
function makeReader() {
  const state = { asked: 0, value: 1, fails: false, held: Promise.resolve() };
  const read = async (key: string): Promise<string> => {
    state.asked += 1;
    await state.held;
    if (state.fails) throw new Error('away');
    return `${key} ${state.value}`;
  };
  return { state, read };
}

describe('what is known last', () => {
  it('is read once for all who ask at a time, and while it is fresh', async () => {
    const { state, read } = makeReader();
    const known = makeLastKnown(read);
    expect(await Promise.all([known.get('a'), known.get('a'), known.get('b')])).toEqual(['a 1', 'a 1', 'b 1']);
    state.value = 2;
    expect(await known.get('a')).toBe('a 1');
    expect(state.asked).toBe(2);
  });

  it('is read anew once it is older, and at once where it was forgotten', async () => {
    const { state, read } = makeReader();
    const known = makeLastKnown(read, 0);
    await known.get('a');
    state.value = 2;
    expect(await known.get('a')).toBe('a 2');
    const kept = makeLastKnown(read, 60_000);
    await kept.get('a');
    state.value = 3;
    kept.forget('a');
    expect(await kept.get('a')).toBe('a 3');
  });

  it('is given where the newest cannot be read, and the error where nothing was known', async () => {
    const { state, read } = makeReader();
    const known = makeLastKnown(read, 0);
    await known.get('a');
    state.fails = true;
    expect(await known.get('a')).toBe('a 1');
    await expect(known.get('b')).rejects.toThrow('away');
    state.fails = false;
    expect(await known.get('b')).toBe('b 1');
  });

  it('is given where the newest takes long; who asks later has the newest', async () => {
    const { state, read } = makeReader();
    const known = makeLastKnown(read, 0);
    await known.get('a');
    let release = () => {};
    state.held = new Promise((resolve) => (release = resolve));
    state.value = 2;
    expect(await known.get('a')).toBe('a 1');
    release();
    await expect.poll(() => known.get('a')).toBe('a 2');
  });
});

it('keeps nothing of a read that was under way when it was to be forgotten', async () => {
  const answers: ((value: string) => void)[] = [];
  const last = makeLastKnown(() => new Promise<string>((resolve) => answers.push(resolve)));
  const before = last.get('a');
  last.forget('a');
  const after = last.get('a');
  answers[1]!('new');
  answers[0]!('old');
  expect(await Promise.all([before, after])).toEqual(['old', 'new']);
  expect(await last.get('a')).toBe('new');
  expect(answers).toHaveLength(2);
});

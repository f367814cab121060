/**
 * Finds out whether some text fits a pattern of parts in two ways. Each part is a small automaton that accepts a text in
 * one way at most; the whole is their chain. Two runs of the chain go over the same text side by side: where they can
 * part and both end well, that text has two readings. Searching by breadth gives the shortest.
 */

export interface PatternPart {
  /** '' for text as it stands. */
  name: string;
  kind: 'listed' | 'digits' | 'word' | 'words';
  values: string[];
  digits?: number;
}
export type Pattern = PatternPart[];

interface State {
  /** Which part of the pattern it lies in; the number of parts for the end. */
  part: number;
  steps: [character: string, to: number][];
  ends: boolean;
}

const digits = [...'0123456789'];
const wordCharacters = [...'abcdefghijklmnopqrstuvwxyz', ...digits];

/** The states of one part, its first state first; `ends` where the part may be over. */
function statesOf(part: PatternPart, index: number): State[] {
  const states: State[] = [];
  const add = (ends = false) => states.push({ part: index, steps: [], ends }) - 1;
  const start = add();
  if (part.kind === 'listed')
    // A tree, so that values that begin alike are gone through once.
    for (const value of new Set(part.values)) {
      let at = start;
      for (const character of value) {
        let to = states[at]!.steps.find(([known]) => known === character)?.[1];
        if (to === undefined) states[at]!.steps.push([character, (to = add())]);
        at = to;
      }
      states[at]!.ends = true;
    }
  else if (part.kind === 'digits') {
    let at = start;
    for (let i = 0; i < (part.digits ?? 1); i++) {
      const to = add();
      for (const digit of digits) states[at]!.steps.push([digit, to]);
      at = to;
    }
    states[at]!.ends = true;
  } else {
    const inside = add(true);
    for (const character of wordCharacters) {
      states[start]!.steps.push([character, inside]);
      states[inside]!.steps.push([character, inside]);
    }
    if (part.kind === 'words') {
      const between = add();
      states[inside]!.steps.push(['-', between]);
      for (const character of wordCharacters) states[between]!.steps.push([character, inside]);
    }
  }
  return states;
}

/** The chain of all parts, without empty steps: what ends one part begins the next. No part can be empty. */
function chain(pattern: Pattern): State[] {
  const all: State[] = [];
  const starts: number[] = [];
  for (const [index, part] of pattern.entries()) {
    const offset = all.length;
    starts.push(offset);
    for (const state of statesOf(part, index))
      all.push({ ...state, steps: state.steps.map(([character, to]) => [character, to + offset]) });
  }
  const last = pattern.length - 1;
  return all.map((state) => {
    if (!state.ends || state.part === last) return state;
    const next = all[starts[state.part + 1]!]!;
    return { ...state, ends: false, steps: [...state.steps, ...next.steps] };
  });
}

interface Pair {
  one: number;
  other: number;
  parted: boolean;
  before: Pair | null;
  character: string;
}

/** The shortest text that fits in two ways, with what each part is in either; null where every text fits in one. */
export function findTwoReadings(
  pattern: Pattern,
): { example: string; readings: [Record<string, string>, Record<string, string>] } | null {
  if (pattern.length === 0) return null;
  const states = chain(pattern);
  const last = pattern.length - 1;
  const isEnd = (state: State) => state.ends && state.part === last;
  const seen = new Set<string>();
  let row: Pair[] = [{ one: 0, other: 0, parted: false, before: null, character: '' }];
  while (row.length > 0) {
    const next: Pair[] = [];
    for (const pair of row) {
      if (pair.parted && isEnd(states[pair.one]!) && isEnd(states[pair.other]!)) return describe(pattern, states, pair);
      for (const [character, one] of states[pair.one]!.steps)
        for (const [same, other] of states[pair.other]!.steps) {
          if (same !== character) continue;
          const parted = pair.parted || states[one]!.part !== states[other]!.part;
          // The two are alike: which is called the one does not matter.
          const key = one <= other ? `${one} ${other} ${parted}` : `${other} ${one} ${parted}`;
          if (seen.has(key)) continue;
          seen.add(key);
          next.push({ one, other, parted, before: pair, character });
        }
    }
    row = next;
  }
  return null;
}

function describe(pattern: Pattern, states: State[], end: Pair) {
  const path: Pair[] = [];
  for (let pair: Pair | null = end; pair?.before; pair = pair.before) path.unshift(pair);
  const reading = (side: 'one' | 'other') => {
    const values: Record<string, string> = {};
    for (const pair of path) {
      const { name } = pattern[states[pair[side]]!.part]!;
      if (name) values[name] = (values[name] ?? '') + pair.character;
    }
    return values;
  };
  return {
    example: path.map(({ character }) => character).join(''),
    readings: [reading('one'), reading('other')] as [Record<string, string>, Record<string, string>],
  };
}

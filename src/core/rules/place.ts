import type { ReleaseContent } from '../releases/schema';

/** Where the rules of a kind stand in a release. */
export interface Place<Rule> {
  /** True where there is one rule of the kind and no more. */
  isOne: boolean;
  /** A rule's own name among those of its kind; '' where there is one of the kind. */
  idOf(rule: Rule): string;
  read(content: ReleaseContent): [id: string, rule: Rule][];
  /** Puts a rule in its place, at the end where it is new; null takes it out. */
  write(content: ReleaseContent, id: string, rule: Rule | null): ReleaseContent;
}

type At<Content, Path> = Path extends readonly [infer Key, ...infer Rest]
  ? Key extends keyof Content
    ? At<Content[Key], Rest>
    : never
  : Content;
type Item<Path> = At<ReleaseContent, Path> extends readonly (infer One)[] ? One : never;
type Keys = readonly string[];

const readAt = (content: unknown, path: Keys): unknown =>
  path.reduce<unknown>((within, key) => (within as Record<string, unknown>)[key], content);

function writeAt<Content>(content: Content, [key, ...rest]: Keys, value: unknown): Content {
  if (key === undefined) return value as Content;
  return { ...content, [key]: writeAt((content as Record<string, unknown>)[key], rest, value) };
}

/** Rules in a list of a release, each with a name of its own. */
export function inList<const Path extends Keys>(path: Path, idOf: (rule: Item<Path>) => string): Place<Item<Path>> {
  const all = (content: ReleaseContent) => readAt(content, path) as Item<Path>[];
  return {
    isOne: false,
    idOf,
    read: (content) => all(content).map((rule) => [idOf(rule), rule]),
    write(content, id, rule) {
      const others = all(content);
      const at = others.findIndex((one) => idOf(one) === id);
      const rules = others.filter((_, index) => index !== at);
      if (rule !== null) rules.splice(at < 0 ? rules.length : at, 0, rule);
      return writeAt(content, path, rules);
    },
  };
}

/**
 * A rule of which a release has just one.
 * @param keys what of that place is the rule; all of it without them
 */
export function inOne<
  const Path extends Keys,
  Key extends keyof At<ReleaseContent, Path> = keyof At<ReleaseContent, Path>,
>(path: Path, keys?: readonly Key[]): Place<Pick<At<ReleaseContent, Path>, Key>> {
  type Rule = Pick<At<ReleaseContent, Path>, Key>;
  const whole = (content: ReleaseContent) => readAt(content, path) as At<ReleaseContent, Path>;
  return {
    isOne: true,
    idOf: () => '',
    read(content) {
      const all = whole(content);
      return [['', keys ? (Object.fromEntries(keys.map((key) => [key, all[key]])) as Rule) : all]];
    },
    write: (content, _id, rule) => (rule === null ? content : writeAt(content, path, { ...whole(content), ...rule })),
  };
}

/** A rule of which a release has one at most. */
export function inOptional<const Path extends Keys>(path: Path): Place<NonNullable<At<ReleaseContent, Path>>> {
  type Rule = NonNullable<At<ReleaseContent, Path>>;
  return {
    isOne: true,
    idOf: () => '',
    read(content) {
      const rule = readAt(content, path) as Rule | null;
      return rule === null ? [] : [['', rule]];
    },
    write: (content, _id, rule) => writeAt(content, path, rule),
  };
}

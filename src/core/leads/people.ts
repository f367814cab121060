/** One record about a person: in the CRM, of a platform's lead form, of a call, of a row of a file. */
export interface PersonRecord {
  id: string;
  name: string;
  company: string;
  /** By what the person is reached or known, hashed, each told apart from the other kinds. */
  identities: Identity[];
}

/** `record`: the number of this record, or of one that was merged into it where it is kept. */
export type IdentityKind = 'record' | 'mail' | 'telephone';
export interface Identity {
  kind: IdentityKind;
  hash: string;
}

/** Why two records are one person's. */
export type JoinedBy = IdentityKind | 'hand';

/** Two records that somebody keeps apart, or joins by hand. */
export interface Pair {
  one: string;
  other: string;
}

/** What a record belongs to: the record by whose ID its person goes, and by what it was joined to it. */
export interface Membership {
  into: string;
  /** '' where it is that record itself. */
  by: JoinedBy | '';
}

/** A mail address or telephone number of more records than this is no one person's. */
const mostOfOne = 20;

const wordsOf = (text: string): string[] =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** Whether one text has all the words of the other, as "Anna" and "Anna Pell" do; a text without words agrees with all. */
function agree(one: string[], other: string[]): boolean {
  const [few, many] = one.length <= other.length ? [one, other] : [other, one];
  return few.every((word) => many.includes(word));
}

/**
 * Whether two records with the same mail address or telephone number can be one person's: the same name of two words or
 * more; or names and companies of which one has all the words of the other. Two people of one switchboard have different
 * names, and of a mailbox of two businesses different companies.
 */
export function isSamePerson(
  one: Pick<PersonRecord, 'name' | 'company'>,
  other: Pick<PersonRecord, 'name' | 'company'>,
): boolean {
  const [name, otherName] = [wordsOf(one.name), wordsOf(other.name)];
  if (name.length > 1 && name.length === otherName.length && agree(name, otherName)) return true;
  return agree(name, otherName) && agree(wordsOf(one.company), wordsOf(other.company));
}

/**
 * The people behind records. A record's number joins always, whatever the names: the CRM merged them. A mail address or a
 * telephone number joins the records that have it only if any two of them can be one person's; else it is shared (a
 * mailbox such as `info@`, a switchboard) and joins nobody. What somebody keeps apart is joined by nothing that both have.
 * It follows from the records alone, in whatever order they came.
 *
 * @returns for each record the one of its person with the least ID: whatever came first, the person goes by it
 */
export function joinPeople(
  records: readonly PersonRecord[],
  { apart = [], joined = [] }: { apart?: readonly Pair[]; joined?: readonly Pair[] } = {},
): Map<string, Membership> {
  const ordered = [...records].sort((a, b) => (a.id < b.id ? -1 : 1));
  const bearers = bearersOf(ordered);
  const isApart = new Set(apart.flatMap(({ one, other }) => [`${one} ${other}`, `${other} ${one}`]));
  const into = new Map(ordered.map(({ id }): [string, Membership] => [id, { into: id, by: '' }]));
  const firstOf = (id: string): string => {
    const next = into.get(id)!.into;
    return next === id ? id : firstOf(next);
  };
  const join = (one: string, other: string, by: JoinedBy) => {
    if (!into.has(one) || !into.has(other)) return;
    const [first, second] = [firstOf(one), firstOf(other)].sort();
    if (first !== second) into.set(second!, { into: first!, by });
  };
  const groups = [...bearers].sort(([a], [b]) => kindOrder(a) - kindOrder(b) || (a < b ? -1 : 1));
  for (const [key, group] of groups) {
    const kind = kindOf(key);
    if (kind !== 'record' && isShared(group, isApart)) continue;
    for (const { id } of group.slice(1)) join(group[0]!.id, id, kind);
  }
  for (const { one, other } of joined) join(one, other, 'hand');
  return new Map(ordered.map(({ id }) => [id, { into: firstOf(id), by: into.get(id)!.by }]));
}

/** Mail addresses and telephone numbers that more than one person has: they join nobody. @param people as they were joined */
export function sharedIdentities(
  records: readonly PersonRecord[],
  people: ReadonlyMap<string, Membership>,
): { kind: IdentityKind; hash: string; records: string[] }[] {
  return [...bearersOf(records)].flatMap(([key, group]) =>
    kindOf(key) !== 'record' && new Set(group.map(({ id }) => people.get(id)!.into)).size > 1
      ? [{ kind: kindOf(key), hash: key.slice(key.indexOf(' ') + 1), records: group.map(({ id }) => id) }]
      : [],
  );
}

const kinds: readonly IdentityKind[] = ['record', 'mail', 'telephone'];
const kindOf = (key: string) => key.slice(0, key.indexOf(' ')) as IdentityKind;
const kindOrder = (key: string) => kinds.indexOf(kindOf(key));

/** The records that have each identity, in their order. */
function bearersOf(records: readonly PersonRecord[]): Map<string, PersonRecord[]> {
  const bearers = new Map<string, PersonRecord[]>();
  for (const record of records)
    for (const key of new Set(record.identities.map(({ kind, hash }) => `${kind} ${hash}`))) {
      const group = bearers.get(key);
      if (group) group.push(record);
      else bearers.set(key, [record]);
    }
  return bearers;
}

function isShared(group: readonly PersonRecord[], isApart: ReadonlySet<string>): boolean {
  if (group.length > mostOfOne) return true;
  return group.some((one, i) =>
    group.slice(i + 1).some((other) => isApart.has(`${one.id} ${other.id}`) || !isSamePerson(one, other)),
  );
}

/** A link or button that somebody pressed, as it is recorded: never what is written into a field. */
export interface Press {
  tag: string;
  id: string;
  /** Its name, as forms have it. */
  name: string;
  /** Where it leads, without query and fragment; '' for a button. */
  link: string;
  /** The words on it, at most 60 characters. */
  text: string;
  /** Its own data attributes, by their names without `data-`. */
  data: [name: string, value: string][];
}

/** One part of a selector: `tag`, `#id`, or `[name]`, `[name="value"]`, `[name^="value"]`. */
const piece =
  /^(?:#((?:[\w-]|\\.)+)|\[([\w-]+)(?:([~^$*]?)=(?:"([^"]*)"|'([^']*)'|([\w-]+)))?\]|([a-z][a-z0-9-]*|\*))/i;

/** The attributes that a press records, whose lack is therefore known. */
const known = (name: string): boolean => name === 'id' || name === 'name' || name.startsWith('data-');

/**
 * Whether what was pressed meets a selector, as far as a press records it: null where that does not say, such as for a
 * class, or for what is around it.
 */
export function meetsSelector(press: Press, selector: string): boolean | null {
  const any = selector.split(',').map((one) => meetsWithin(press, one.trim()));
  return any.includes(true) ? true : any.includes(null) ? null : false;
}

/** What stands around it a press does not record: of `nav a` only the `a` can be held against it. */
function meetsWithin(press: Press, selector: string): boolean | null {
  const compounds = selector.split(/\s*[\s>+~](?![^[]*\])\s*/);
  const meets = meetsCompound(press, compounds.at(-1)!);
  return compounds.length > 1 ? meets && null : meets;
}

function meetsCompound(press: Press, selector: string): boolean | null {
  let rest = selector;
  let meets: boolean | null = rest !== '';
  while (rest !== '') {
    const found = piece.exec(rest);
    if (!found) return meets && null;
    rest = rest.slice(found[0].length);
    const [, id, name, how = '', double, single, bare, tag] = found;
    const one =
      id !== undefined
        ? press.id === id.replace(/\\(.)/g, '$1')
        : name !== undefined
          ? meetsAttribute(press, name.toLowerCase(), how, double ?? single ?? bare)
          : tag === '*' || press.tag === tag!.toLowerCase();
    if (one === false) return false;
    if (one === null) meets = null;
  }
  return meets;
}

function meetsAttribute(press: Press, name: string, how: string, wanted: string | undefined): boolean | null {
  const value = attributeOf(press, name);
  if (value === null) return null;
  if (wanted === undefined) return value !== '' || (name.startsWith('data-') && hasData(press, name));
  switch (how) {
    case '^':
      return wanted !== '' && value.startsWith(wanted);
    case '$':
      return wanted !== '' && value.endsWith(wanted);
    case '*':
      return wanted !== '' && value.includes(wanted);
    case '~':
      return value.split(/\s+/).includes(wanted);
    default:
      return value === wanted;
  }
}

const hasData = ({ data }: Press, name: string): boolean => data.some(([one]) => `data-${one}` === name);

/** The value of an attribute of what was pressed, '' where it has none; null where a press does not record it. */
export function attributeOf(press: Press, name: string): string | null {
  if (!known(name)) return null;
  if (name === 'id' || name === 'name') return press[name];
  return press.data.find(([one]) => `data-${one}` === name)?.[1] ?? '';
}

/** Words as people read them: case and spaces aside. */
export const plainWords = (text: string): string => text.replace(/\s+/g, ' ').trim().toLowerCase();

/** Whether a link leads to a place: by how it begins, its scheme left out where the place names none. */
export const leadsTo = (link: string, place: string): boolean =>
  link !== '' && place !== '' && (link.startsWith(place) || link.replace(/^https?:\/\//, '').startsWith(place));

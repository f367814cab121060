import type { WayInKind } from '../../core/strands';

/** What stands in place of who somebody is, for those who may not see people. */
export const hiddenName = 'name hidden';

/** What stands in place of who somebody was, once they were erased. */
export const erasedName = 'erased';

/** What a lead is called: by the company, else the person. @param otherwise where neither is known */
export const called = (
  { company, name }: { company: string | null; name: string | null },
  seesPeople: boolean,
  otherwise = 'no name',
): string => (seesPeople ? company || name || otherwise : hiddenName);

/** What somebody is called of whom nothing is known but by which way they came in. */
export const nameless = (wayIn: WayInKind | undefined): string => (wayIn === 'call' ? 'a caller' : 'no name');

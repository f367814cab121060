/** What stands in place of who somebody is, for those who may not see people. */
export const hiddenName = 'name hidden';

/** What a lead is called: by the company, else the person. @param otherwise where neither is known */
export const called = (
  { company, name }: { company: string | null; name: string | null },
  seesPeople: boolean,
  otherwise = 'no name',
): string => (seesPeople ? company || name || otherwise : hiddenName);

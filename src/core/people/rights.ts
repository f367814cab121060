/** What somebody may do in a business. */
export interface Rights {
  role: 'owner' | 'editor' | 'reader';
  mayRelease: boolean;
  seesPeople: boolean;
  seesMoney: boolean;
}

const order: Rights['role'][] = ['reader', 'editor', 'owner'];

/** The rights that both have: a token never may more than its maker does now. */
export function fewerRights(a: Rights, b: Rights): Rights {
  return {
    role: order[Math.min(order.indexOf(a.role), order.indexOf(b.role))]!,
    mayRelease: a.mayRelease && b.mayRelease,
    seesPeople: a.seesPeople && b.seesPeople,
    seesMoney: a.seesMoney && b.seesMoney,
  };
}

/** Whether somebody may change anything, and not only read. */
export const mayChange = ({ role }: Pick<Rights, 'role'>): boolean => role !== 'reader';

/** What somebody may do, in words: "editor, may release, sees people". */
export const rightsWords = ({ role, mayRelease, seesPeople, seesMoney }: Rights): string =>
  [
    role,
    ...(mayRelease ? ['may release'] : []),
    ...(seesPeople ? ['sees people'] : []),
    ...(seesMoney ? ['sees money'] : []),
  ].join(', ');

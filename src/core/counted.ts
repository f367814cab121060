/** Plain numbers with thousands separators. */
export const count = (n: number): string => n.toLocaleString('en-GB');

/** "1 enquiry", "3 enquiries". */
export const counted = (n: number, one: string, many: string): string => `${count(n)} ${n === 1 ? one : many}`;

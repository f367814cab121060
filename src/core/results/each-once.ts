/** The items of a list with each of them once: one that comes again becomes one that is not there yet. */
export function eachOnce<One extends string>(items: readonly { one: One }[], all: readonly One[]): { one: One }[] {
  const used: One[] = [];
  for (const { one } of items) {
    const next = used.includes(one) ? all.find((other) => !used.includes(other)) : one;
    if (next !== undefined) used.push(next);
  }
  return used.map((one) => ({ one }));
}

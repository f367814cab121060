/** Items by a key of theirs, in the order in which they came. */
export function groupBy<T, K>(items: Iterable<T>, key: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const own = key(item);
    const group = groups.get(own);
    if (group) group.push(item);
    else groups.set(own, [item]);
  }
  return groups;
}

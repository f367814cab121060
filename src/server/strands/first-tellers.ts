/** Something that any browser may tell, and that counts once. */
interface Told {
  id: string;
  visitorId: string;
}

/**
 * Of what several browsers may tell, what is these visitors': the earliest teller has it, at the same moment the one of
 * the smaller ID.
 *
 * @param stored what is known of it, whoever told it
 * @param derived what these visitors tell now, in place of what they told before
 */
export function ofFirstTellers<Derived extends Told & { at: number }>(
  stored: readonly (Told & { at: Date })[],
  derived: readonly Derived[],
): Derived[] {
  const earliest = new Map<string, Told & { at: number }>(
    stored.map(({ id, visitorId, at }) => [id, { id, visitorId, at: at.getTime() }]),
  );
  const own = new Map<string, Derived>();
  for (const one of derived) {
    const known = earliest.get(one.id);
    const isOthers = known && known.visitorId !== one.visitorId;
    const isLater = known && (known.at - one.at || (known.visitorId < one.visitorId ? -1 : 1)) < 0;
    if (isOthers && isLater) continue;
    earliest.set(one.id, one);
    own.set(one.id, one);
  }
  return [...own.values()];
}

type Item = { id: string; partId: string; sha256: string };

/** A file of one hand-in beside what takes its place in another; null: there is none. `same`: byte for byte. */
export type ItemPair<I extends Item> = { before: I | null; after: I | null; same: boolean };

/**
 * The files of two hand-ins side by side, part by part: those that are the same to the byte belong together wherever they
 * stand, the others in their order; what was added or taken out stands alone. In the order of the later hand-in, then
 * what is gone.
 */
export function pairItems<I extends Item>(
  before: readonly I[],
  after: readonly I[],
): ItemPair<I>[] {
  const left = [...before];
  const take = (fits: (item: I) => boolean): I | null => {
    const at = left.findIndex(fits);
    return at < 0 ? null : left.splice(at, 1)[0]!;
  };
  const equals = new Map(
    after.map((item) => [
      item.id,
      take((old) => old.partId === item.partId && old.sha256 === item.sha256),
    ]),
  );
  const pairs = after.map((item): ItemPair<I> => {
    const equal = equals.get(item.id) ?? null;
    if (equal) return { before: equal, after: item, same: true };
    return { before: take((old) => old.partId === item.partId), after: item, same: false };
  });
  return [...pairs, ...left.map((item) => ({ before: item, after: null, same: false }))];
}

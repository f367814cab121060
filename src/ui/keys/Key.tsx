/** A key, as it is named beside what it does. */
export const Key = ({ k, strong = false }: { k: string; strong?: boolean }) => (
  <kbd className={`value rounded border px-1 ${strong ? 'border-base-100/50' : 'border-quiet/40'}`}>{k}</kbd>
);

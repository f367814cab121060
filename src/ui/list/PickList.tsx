import type { ReactNode } from 'react';
import { PickLink } from './PickLink';

export interface Item {
  id: string;
  href: string;
  words: ReactNode;
  /** A value at the end of its first line. */
  aside?: string;
  under: ReactNode;
}

/** The list beside a detail: one line for each, the one that is open marked; a new one stands last while it is written. */
export function PickList({
  label,
  items,
  current,
  onPick,
  fresh,
}: {
  label: string;
  items: Item[];
  current: string;
  onPick: (id: string) => void;
  /** What a new one is called, while it is open. */
  fresh: string | null;
}) {
  return (
    <nav className="sheet p-1" aria-label={label}>
      {items.map(({ id, href, words, aside, under }) => {
        const open = id === current;
        return (
          <PickLink
            key={id}
            href={href}
            current={open}
            onPick={() => onPick(id)}
            className={`block rounded-[4px] px-3.5 py-2 ${open ? 'bg-primary text-primary-content' : 'hover:bg-base-200'}`}
          >
            <span className="flex items-baseline justify-between gap-2">
              <span className="font-semibold">{words}</span>
              {aside && <code className={`value text-[12px] ${open ? '' : 'text-quiet'}`}>{aside}</code>}
            </span>
            <span className={`block text-[12.5px] ${open ? '' : 'text-quiet'}`}>{under}</span>
          </PickLink>
        );
      })}
      {fresh && (
        <span className="bg-primary text-primary-content block rounded-[4px] px-3.5 py-2 font-semibold">{fresh}</span>
      )}
    </nav>
  );
}

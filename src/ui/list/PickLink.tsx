import type { ReactNode } from 'react';

/** A link whose detail opens beside the list: pressed it opens there, by other means it has an address of its own. */
export function PickLink({
  href,
  onPick,
  className,
  current = false,
  children,
}: {
  href: string;
  onPick: () => void;
  className: string;
  current?: boolean;
  children: ReactNode;
}) {
  return (
    <a
      href={href}
      className={className}
      aria-current={current || undefined}
      onClick={(event) => {
        if (event.metaKey || event.ctrlKey || event.shiftKey) return;
        event.preventDefault();
        onPick();
      }}
    >
      {children}
    </a>
  );
}

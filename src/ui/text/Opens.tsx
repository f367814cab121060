import type { ReactNode } from 'react';

/** Text that opens something, or plain text where there is nothing to open. */
export function Opens({
  href,
  className = 'quiet-link',
  children,
}: {
  href: string | null;
  className?: string;
  children: ReactNode;
}) {
  return href === null ? (
    children
  ) : (
    <a href={href} className={className}>
      {children}
    </a>
  );
}

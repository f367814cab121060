import type { ReactNode } from 'react';
import { Words } from '../text/Words';

/** What every page opens with. `dark` stands on the hero ground of the line. */
export function Sentence({
  title,
  under,
  crumb,
  children,
  dark = false,
}: {
  title: string;
  under: string;
  crumb?: ReactNode;
  children?: ReactNode;
  dark?: boolean;
}) {
  const quiet = dark ? 'text-hero-quiet' : 'text-quiet';
  return (
    <div>
      {crumb && <p className={quiet}>{crumb}</p>}
      <h1 className="text-[25px] leading-tight [overflow-wrap:anywhere]">{title}</h1>
      <div className="mt-1 flex flex-wrap items-end justify-between gap-x-8 gap-y-3 xl:flex-nowrap">
        <p className={`${quiet} max-w-[76ch] min-w-0`}>
          <Words text={under} />
        </p>
        {children && <div>{children}</div>}
      </div>
    </div>
  );
}

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
      <div className="grid gap-x-8 lg:grid-cols-[minmax(0,1fr)_auto]">
        <h1 className="text-[25px] leading-tight [overflow-wrap:anywhere]">{title}</h1>
        <p className={`${quiet} mt-1 max-w-[76ch] min-w-0`}>
          <Words text={under} />
        </p>
        {children && (
          <div className="mt-3 self-end lg:col-start-2 lg:row-span-2 lg:row-start-1 lg:mt-0">{children}</div>
        )}
      </div>
    </div>
  );
}

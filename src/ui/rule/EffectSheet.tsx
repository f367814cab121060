import type { ReactNode } from 'react';

/** The sheet beside a rule that says what it does to what was recorded. */
export function EffectSheet({
  heading,
  under,
  children,
}: {
  /** What it does, in one line; null while that is being worked out. */
  heading: string | null;
  under?: ReactNode;
  children?: ReactNode;
}) {
  if (heading === null)
    return (
      <section className="sheet text-quiet p-4" aria-label="Effect" aria-busy>
        Checking recorded visits …
      </section>
    );
  return (
    <section className="sheet p-4" aria-label="Effect">
      <h2 className="text-base">{heading}</h2>
      {under && <p className="text-quiet mt-1 text-[13px]">{under}</p>}
      {children}
    </section>
  );
}

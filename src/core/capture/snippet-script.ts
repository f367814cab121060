import type { CaptureRules } from './schema';

/** The parts of the snippet that only some releases need, in the order in which they are served. */
export const snippetParts = ['elsewhere', 'seen-forms', 'by-script', 'orders'] as const;
export type SnippetPart = (typeof snippetParts)[number];

/** Which of the parts a release's rules need. */
export function partsFor({ elsewhere, forms, orders }: CaptureRules): SnippetPart[] {
  const needs: Record<SnippetPart, boolean> = {
    elsewhere: elsewhere.length > 0,
    // Without a rule for any form it is how people learn which forms there are.
    'seen-forms': true,
    'by-script': forms.length > 0,
    orders: orders.length > 0,
  };
  return snippetParts.filter((name) => needs[name]);
}

/**
 * One release's script: its rules, the parts they need, and the engine.
 *
 * @param setup what the engine works by; its rules are the release's
 * @param read the source of the engine or of a part
 */
export function snippetScript(
  setup: { business: string; release: number; edge: string; rules: CaptureRules },
  read: (name: 'engine' | SnippetPart) => string,
): string {
  const sources = [...partsFor(setup.rules), 'engine' as const].map(read);
  return `((AVRIX_SETUP,AVRIX_PARTS)=>{${sources.join('')}})(${scriptLiteral(setup)},[])`;
}

/** A value as a script writes it, also where the script stands in a page. */
export const scriptLiteral = (value: unknown): string => JSON.stringify(value).replace(/</g, '\\u003c');

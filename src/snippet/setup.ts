import type { CaptureRules, Kept } from '../core/capture';

/** What the edge puts in front of the engine when it serves a release. */
export interface SnippetSetup {
  business: string;
  release: number;
  /** The edge's address, before its doors. */
  edge: string;
  rules: CaptureRules;
  /** Only where the release names places outside. */
  elsewhere?: ElsewherePart;
}

/** The part of the snippet that leads values to places outside and takes them up again; see elsewhere.ts. */
export interface ElsewherePart {
  /** An address without signed values. */
  strip(address: string): string;
  /** What the browser keeps with what came in this page's address, and the place it came from; null without any. */
  read(setup: SnippetSetup, here: Kept): Promise<{ place: string; kept: Kept } | null>;
  /** @returns puts signed values into every link and frame there is now */
  lead(setup: SnippetSetup, kept: () => Kept): () => void;
}

/** One of the edge's doors for this business. */
export const doorOf = ({ edge, business }: SnippetSetup, door: 'collect' | 'count' | 'carry'): string =>
  `${edge}/${door}/${business}`;

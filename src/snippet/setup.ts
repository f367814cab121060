import type { CaptureRules } from '../core/capture';

/** What the edge puts in front of the engine when it serves a release. */
export interface SnippetSetup {
  business: string;
  release: number;
  /** Where hits are sent. */
  collect: string;
  rules: CaptureRules;
}

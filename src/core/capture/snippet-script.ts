import type { EventRules } from '../events/schema';
import type { HashedReading } from '../events/mail-hash';
import { hashedReadings, pageWires, type PageWire } from '../events/page-wires';
import { readsWithWires } from '../events/wires';
import type { OwnPlatform } from '../platforms/schema';
import type { CaptureRules } from './schema';
import type { Seen } from './seen';

/**
 * The parts of the snippet that only some releases need, in the order in which they are served: what a page says is heard
 * by events before an order is told that they may read it with.
 */
export const snippetParts = [
  'elsewhere',
  'seen-forms',
  'by-script',
  'presses',
  'wires',
  'hashes',
  'events',
  'orders',
  'call-code',
] as const;
export type SnippetPart = (typeof snippetParts)[number];

/** What the engine and its parts work by on pages. */
export interface PageRules {
  rules: CaptureRules;
  /** Left out where no page needs them. */
  events?: EventRules | undefined;
  /** What pages tell destinations themselves, and where each one's opener is, by its account's key. */
  wires?: PageWire[] | undefined;
  openers?: Record<string, string> | undefined;
  /** Readings that go along hashed only. */
  hashes?: HashedReading[] | undefined;
  /** For somebody who sees through the page. */
  seen?: Seen;
}

/**
 * What of a release pages work by.
 *
 * @param openers where each account's opener is; one that is paused has none
 */
export const pageRules = (
  { capture, events, platforms }: { capture: CaptureRules; events: EventRules; platforms: readonly OwnPlatform[] },
  openers: Record<string, string> = {},
): PageRules => ({
  rules: capture,
  events:
    events.presses || events.events.length > 0
      ? {
          ...events,
          events: events.events.map((rule) => ({ ...rule, reads: readsWithWires(rule, events.wires) })),
          // Where the server tells them is its own business.
          wires: [],
        }
      : undefined,
  ...wiresByPages(events, platforms, openers),
  hashes: orNone(hashedReadings(events, platforms)),
});

const orNone = <One>(all: One[]): One[] | undefined => (all.length > 0 ? all : undefined);

function wiresByPages({ wires }: EventRules, platforms: readonly OwnPlatform[], openers: Record<string, string>) {
  const told = pageWires(wires, platforms).filter(({ account }) => Object.hasOwn(openers, account));
  if (told.length === 0) return {};
  return {
    wires: told,
    openers: Object.fromEntries(told.map(({ account }) => [account, openers[account]!])),
  };
}

/** Which of the parts a release's rules need. */
export function partsFor({
  rules: { elsewhere, forms, orders, callCodes },
  events,
  wires = [],
  hashes = [],
}: PageRules): SnippetPart[] {
  const cues = (events?.events ?? []).flatMap((event) => event.cues.map(({ kind }) => kind));
  const needs: Record<SnippetPart, boolean> = {
    elsewhere: elsewhere.length > 0,
    // Without a rule for any form it is how people learn which forms there are.
    'seen-forms': true,
    'by-script': forms.length > 0 || cues.includes('sends'),
    orders: orders.length > 0,
    presses: Boolean(events?.presses) || cues.some((kind) => kind.startsWith('presses') || kind === 'leaves_for'),
    wires: wires.length > 0,
    hashes: hashes.length > 0,
    events: cues.length > 0,
    'call-code': callCodes.length > 0,
  };
  return snippetParts.filter((name) => needs[name]);
}

/**
 * One release's script: its rules, the parts they need, and the engine.
 *
 * @param setup what the engine works by; its rules are the release's
 * @param read the source of the engine or of a part
 * @param also sources of parts that no release has
 */
export function snippetScript(
  setup: PageRules & { business: string; release: number; edge: string },
  read: (name: 'engine' | SnippetPart) => string,
  also: readonly string[] = [],
): string {
  const sources = [...partsFor(setup).map(read), ...also, read('engine')];
  return `((AVRIX_SETUP,AVRIX_PARTS)=>{${sources.join('')}})(${scriptLiteral(setup)},[])`;
}

/** A value as a script writes it, also where the script stands in a page. */
export const scriptLiteral = (value: unknown): string => JSON.stringify(value).replace(/</g, '\\u003c');

import type { ReactNode } from 'react';
import type { OpenedPart, ThreeCountsView } from '../../core/results/three-counts-view';
import { changeText } from '../../core/results/three-counts-words';
import { count } from '../../core/strands';
import { Opens } from '../../ui/text/Opens';
import { Words } from '../../ui/text/Words';

/** The steps from one count to another, each drawn from where the one before it ended: solid takes away, hollow adds. */
export function Bridge({
  view: { start, end, steps, unit },
  hrefOf,
  isBusy,
}: {
  view: ThreeCountsView;
  hrefOf: (of: OpenedPart) => string;
  isBusy: boolean;
}) {
  const most = Math.max(1, start.count, ...steps.map(({ from, count: change }) => from + change));
  const head = 'text-quiet px-3.5 py-2 text-[13.5px] font-normal';
  return (
    <section className="sheet overflow-x-auto" aria-busy={isBusy}>
      <table className="w-full text-[14px]" aria-label="From one count to the other">
        <thead>
          <tr>
            <th scope="col" className={`${head} text-left`}>
              Step
            </th>
            <th scope="col" className={`${head} text-right capitalize`}>
              {unit[1]}
            </th>
            <th scope="col" className="w-[38%]">
              <span className="sr-only">Drawn</span>
            </th>
            <th scope="col" className={`${head} text-left`}>
              Why
            </th>
          </tr>
        </thead>
        <tbody>
          <Row
            words={start.words}
            why={start.why}
            text={count(start.count)}
            href={start.opens ? hrefOf('start') : null}
            isEnd
          >
            <Bar from={0} to={start.count} most={most} kind="end" />
          </Row>
          {steps.map(({ key, words, why, from, count: change, opens }) => (
            <Row key={key} words={words} why={why} text={changeText(change)} href={opens ? hrefOf(key) : null}>
              <Bar from={from} to={from + change} most={most} kind="step" />
            </Row>
          ))}
          <Row words={end.words} why={end.why} text={count(end.count)} href={end.opens ? hrefOf('end') : null} isEnd>
            <Bar from={0} to={end.count} most={most} kind="end" />
          </Row>
        </tbody>
      </table>
    </section>
  );
}

function Row({
  words,
  why,
  text,
  href,
  isEnd = false,
  children,
}: {
  words: string;
  why: string;
  text: string;
  href: string | null;
  isEnd?: boolean;
  children: ReactNode;
}) {
  return (
    <tr className="border-t border-base-300">
      <th scope="row" className={`px-3.5 py-2 text-left ${isEnd ? 'font-semibold' : 'font-normal'}`}>
        {words}
      </th>
      <td className="value px-3.5 py-2 text-right whitespace-nowrap">
        <Opens href={href}>{text}</Opens>
      </td>
      <td className="px-2">{children}</td>
      <td className="text-quiet px-3.5 py-2 text-[13.5px]">
        <Words text={why} />
      </td>
    </tr>
  );
}

/** A bar of a step, or of an end; the thin line before it shows where the step before it ended. */
function Bar({ from, to, most, kind }: { from: number; to: number; most: number; kind: 'end' | 'step' }) {
  const percent = (n: number) => `${(100 * n) / most}%`;
  const bar = { x: percent(Math.min(from, to)), y: 4, width: percent(Math.abs(to - from)), height: 16 };
  return (
    <svg width="100%" height="24" className="block overflow-visible" aria-hidden="true">
      {kind === 'end' && <rect {...bar} className="fill-base-content" />}
      {kind === 'step' && to < from && <rect {...bar} className="fill-quiet" />}
      {kind === 'step' && to > from && <rect {...bar} className="stroke-base-content fill-none" strokeWidth="2" />}
      {kind === 'step' && (
        <line x1={percent(from)} x2={percent(from)} y1="0" y2="24" className="stroke-quiet" strokeWidth="1" />
      )}
    </svg>
  );
}

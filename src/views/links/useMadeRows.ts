import { useEffect, useRef, useState } from 'react';
import type { GridRow, LinkPlan, MadeRow } from '../../core/links';
import type { GridMade } from './grid-worker';

const settleAfter = 120;

/** The links of the rows, made by a worker; `busy` while it is behind what stands on the screen. */
export function useMadeRows(plan: LinkPlan, rows: GridRow[]): { made: MadeRow[]; busy: boolean } {
  const worker = useRef<Worker | null>(null);
  const run = useRef(0);
  const [state, setState] = useState<GridMade>({ run: 0, made: [] });
  useEffect(() => {
    const own = new Worker(new URL('./grid-worker.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.addEventListener('message', ({ data }: MessageEvent<GridMade>) => setState(data));
    return () => own.terminate();
  }, []);
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    const wait = setTimeout(() => {
      run.current += 1;
      setAsked(run.current);
      worker.current?.postMessage({ run: run.current, plan, rows });
    }, settleAfter);
    return () => clearTimeout(wait);
  }, [plan, rows]);
  return { made: state.made, busy: state.run !== asked };
}

import { makeRows, type GridRow, type LinkPlan, type MadeRow } from '../../core/links';

/** Makes and checks the grid's links beside the page, so that typing never waits. */
export interface GridAsked {
  run: number;
  plan: LinkPlan;
  rows: GridRow[];
}
export interface GridMade {
  run: number;
  made: MadeRow[];
}

addEventListener('message', ({ data }: MessageEvent<GridAsked>) => {
  postMessage({ run: data.run, made: makeRows(data.plan, data.rows) } satisfies GridMade);
});

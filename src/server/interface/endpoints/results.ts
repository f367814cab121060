import { figuresQuerySchema } from '../../../core/results/figures-view';
import { readsBy, type Endpoint } from '../endpoint';

export const results: Endpoint[] = [
  readsBy('/results/figures', figuresQuerySchema, ({ figures }, { membership, query }) =>
    figures.view(membership, query),
  ),
  readsBy('/results/figures.csv', figuresQuerySchema, async ({ files, figures }, { membership, query }) =>
    files.writeTable('figures', 'csv', await figures.table(membership, query)),
  ),
  readsBy('/results/figures.xlsx', figuresQuerySchema, async ({ files, figures }, { membership, query }) =>
    files.writeTable('figures', 'xlsx', await figures.table(membership, query)),
  ),
];

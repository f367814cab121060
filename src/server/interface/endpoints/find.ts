import { findSchema } from '../../../core/find/schema';
import { readsBy, type Endpoint } from '../endpoint';

export const find: Endpoint[] = [
  readsBy('/find', findSchema, ({ find: all }, { membership, query }) => all(membership, query.text)),
];

import type { Endpoint } from '../endpoint';
import { capture } from './capture';
import { connections } from './connections';
import { events } from './events';
import { find } from './find';
import { leads } from './leads';
import { links } from './links';
import { plan } from './plan';
import { rehearsals } from './rehearsals';
import { rules } from './rules';
import { reportBacks } from './report-backs';
import { results } from './results';
import { strands } from './strands';
import { tokens } from './tokens';

/** Everything that pages ask of a business, below `/api/b/{business}`. */
export const endpoints: Endpoint[] = [
  ...strands,
  ...leads,
  ...plan,
  ...links,
  ...capture,
  ...events,
  ...rules,
  ...rehearsals,
  ...find,
  ...tokens,
  ...connections,
  ...reportBacks,
  ...results,
];

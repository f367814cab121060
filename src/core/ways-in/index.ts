import type { WayInKind } from '../strands/types';
import type { WayIn } from './contract';
import { form } from './form';
import { order } from './order';

export type { WayIn } from './contract';

/** Every way in there is, by its kind; a further one is a file and a line here. */
export const waysIn: Record<WayInKind, WayIn> = { form, order };

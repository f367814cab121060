import { v7 } from 'uuid';
import { nowMs } from './clock';

/** A new UUID version 7 at the server's clock. */
export const newId = (): string => v7({ msecs: nowMs() });

import { z } from 'zod';
import { fieldsWrong } from '../core/errors';

/** A place in a list that is ordered by time, newest first, and by ID where times are the same. */
export interface Cursor {
  at: Date;
  id: string;
}

const cursorSchema = z.tuple([z.number().int(), z.uuid()]);

/** A place as the text that an API caller sends back to go on from it. */
export const writeCursor = ({ at, id }: Cursor): string =>
  Buffer.from(JSON.stringify([at.getTime(), id])).toString('base64url');

/** @throws AVX_FIELD_WRONG where the text is no cursor of ours */
export function readCursor(text: string): Cursor {
  try {
    const [at, id] = cursorSchema.parse(JSON.parse(Buffer.from(text, 'base64url').toString('utf8')));
    return { at: new Date(at), id };
  } catch {
    const wrong = {
      field: 'cursor',
      was: 'not a cursor of this list',
      fix: 'Send back `next` of the answer before.',
    };
    throw fieldsWrong([wrong]);
  }
}

import { count } from '../counted';
import type { Sentence } from '../strands';

/** How far something has come that takes long; of 0 while it is not known of how many. */
export interface Progress {
  done: number;
  of: number;
}

/** What is told of something that takes long: how far it is and, at its end, what came of it. */
export type Told<Answer> = { progress: Progress } | { answer: Answer };

/** How far figures are: their longest part is to read what brought everybody. */
export const progressWords = ({ done, of }: Progress): string =>
  of === 0
    ? 'Working it out …'
    : `Working it out: ${count(done)} of ${count(of)} browsers followed back to what brought them …`;

/** What a page says instead of a result that is not there yet. */
export const stillWorking: Sentence = {
  title: 'These figures take a while to work out.',
  under: 'They are shown here as soon as they are there. You can leave, and find them when you are back.',
};

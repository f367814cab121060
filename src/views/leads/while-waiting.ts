/** How soon (ms) a page is read anew where records wait to be written; not by itself where none does. */
export const whileWaiting = ({ waiting }: { waiting: number }): number | false => (waiting > 0 ? 1000 : false);

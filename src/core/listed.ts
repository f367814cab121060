/** Texts as a sentence lists them: `a, b and c`. */
export const listed = (texts: string[], last = 'and'): string =>
  texts.length < 2 ? texts.join('') : `${texts.slice(0, -1).join(', ')} ${last} ${texts.at(-1)}`;

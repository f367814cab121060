/** A text with a capital letter first, where it begins with a letter of a to z. */
export const capital = (text: string): string => text.replace(/^[a-z]/, (letter) => letter.toUpperCase());

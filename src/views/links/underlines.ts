/** Lines under the parts of a link, told apart by their shape: the page first, then the tags in the plan's order. */
const shapes = [
  'decoration-solid decoration-2',
  'decoration-double decoration-1',
  'decoration-dashed decoration-2',
  'decoration-wavy decoration-1',
  'decoration-dotted decoration-2',
  'decoration-solid decoration-4',
  'decoration-dashed decoration-1',
  'decoration-dotted decoration-4',
  'decoration-double decoration-2',
  'decoration-wavy decoration-2',
];

/** The line of the part at `index`: 0 is the page, 1 the first tag. */
export const underline = (index: number): string =>
  `underline underline-offset-[5px] ${index === 0 ? shapes[0] : shapes[1 + ((index - 1) % (shapes.length - 1))]}`;

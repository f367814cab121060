import type { LinkContract } from './contract';
import { quillsearchLinks } from './quillsearch/links';
import { tessaloopLinks } from './tessaloop/links';
import { wrenwickLinks } from './wrenwick/links';

/** Every platform whose links are known; telling it outcomes may come later. */
export const linkContracts: LinkContract[] = [quillsearchLinks, tessaloopLinks, wrenwickLinks];

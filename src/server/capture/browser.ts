import { UAParser } from 'ua-parser-js';
import { remembered } from '../remembered';

const longest = 20;

/** The engine of the browser that a user agent names, such as WebKit: what decides how long cookies last. '' where none is named. */
export const browserEngineOf = remembered((agent) => (new UAParser(agent).getEngine().name ?? '').slice(0, longest));

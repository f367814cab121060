import { isbot } from 'isbot';
import { remembered } from '../remembered';

/** True where a user agent names itself a bot. */
export const isBot = remembered((agent) => isbot(agent));

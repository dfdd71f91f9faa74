import { card } from './questions/card.ts';
import { checks } from './questions/checks.ts';
import { shelfFile } from './questions/shelfFile.ts';
import { warm } from './questions/warm.ts';

/** What follows a first picture at once, or what the shelf asks: a file of its own, so that the picture does not wait for it. */
export const afterwards = { card, checks, shelfFile, warm };

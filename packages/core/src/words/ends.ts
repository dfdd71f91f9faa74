import type { DeadReason } from '../run/account/result.ts';

/** Why the pack stops giving anything, as the end of a sentence; the same on a screen and on paper. */
export const END_WORDS: Readonly<Record<DeadReason, string>> = {
  cutoff: 'protection opens on low volts',
  trip: 'protection trips',
  short: 'protection trips as on a short circuit',
  collapse: 'pack collapses',
  empty: 'cells are empty',
  nothingDraws: 'nothing draws',
  charged: 'charge is over',
  timeLimit: 'ten years are over',
  unfinished: 'the search was given up there',
};

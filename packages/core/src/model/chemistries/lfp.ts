import { typicalCold, type Chemistry } from './chemistry.ts';

/** Iron phosphate: flat, hard to harm, slow in the cold. */
export const lfp: Chemistry = {
  known: { as: 'an LFP cell', full: 3.65 },
  rests: [1.8, 3.7],
  harm: 1.8,
  // By cycles: Wang et al., J. Power Sources 196 (2011) 3942, eq. 10 for C/2 (from memory).
  fade: { calendar: 0.02, cycling: 0.065 },
  temperature: typicalCold(25000, [0.68, 0.78, 0.89, 0.955, 1, 1.005]),
  agesFull: false,
  cutoffs: { volts: [2.0, 2.5, 2.8, 3.0], usual: 2.5 },
};

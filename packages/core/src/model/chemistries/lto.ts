import { typicalCold, type Chemistry } from './chemistry.ts';

/** Titanate: low volts, many cycles, charged in the cold. */
export const lto: Chemistry = {
  known: { as: 'an LTO cell', full: 2.8 },
  rests: [1.2, 2.9],
  harm: 1,
  // 20 % in 20,000 cycles, with the square root of their number.
  fade: { calendar: 0.01, cycling: 0.045 },
  temperature: typicalCold(15000, [0.88, 0.92, 0.96, 0.985, 1, 1.005], 10),
  agesFull: false,
};

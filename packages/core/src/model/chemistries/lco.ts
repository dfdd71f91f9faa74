import { LAYERED, type Chemistry } from './chemistry.ts';

/** Cobalt oxide: most pouches. */
export const lco: Chemistry = {
  ...LAYERED,
  rests: [2.0, 4.5],
  harm: 2,
  fade: { ...LAYERED.fade, calendar: 0.04 },
};

import { LAYERED, type Chemistry } from './chemistry.ts';

/** One that is not known: nothing is called harm, any volts may be its rest. */
export const other: Chemistry = { ...LAYERED, rests: [0.5, 6], harm: 0 };

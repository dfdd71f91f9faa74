import { LAYERED, type Chemistry } from './chemistry.ts';

/** Nickel, manganese and cobalt: most round cells. */
export const nmc: Chemistry = { ...LAYERED, rests: [2.0, 4.4], harm: 2 };

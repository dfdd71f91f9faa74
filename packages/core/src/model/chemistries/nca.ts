import { LAYERED, type Chemistry } from './chemistry.ts';

/** Nickel, cobalt and aluminium: round cells of much charge. */
export const nca: Chemistry = { ...LAYERED, rests: [2.0, 4.4], harm: 2 };

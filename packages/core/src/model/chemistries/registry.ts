import type { Chemistry } from './chemistry.ts';
import { lco } from './lco.ts';
import { lfp } from './lfp.ts';
import { lto } from './lto.ts';
import { nca } from './nca.ts';
import { nmc } from './nmc.ts';
import { other } from './other.ts';

/** Every chemistry by its name in a document. */
export const CHEMISTRY = { NMC: nmc, NCA: nca, LCO: lco, LFP: lfp, LTO: lto, other } satisfies Record<
  string,
  Chemistry
>;

export type ChemistryName = keyof typeof CHEMISTRY;

export const CHEMISTRIES = Object.keys(CHEMISTRY) as ChemistryName[];

/** What cells of a chemistry have in common. */
export function chemistryOf(name: ChemistryName): Chemistry {
  return CHEMISTRY[name];
}

/** [V] Full volts from which on a cell ages by standing full; others are stopped below it already. */
const AGES_FULL = 4.1;

/** Whether a cell ages by standing full so that it pays to stop below it. */
export function agesFull({ chemistry, fullVolts }: { chemistry: ChemistryName; fullVolts: number }): boolean {
  return chemistryOf(chemistry).agesFull && fullVolts >= AGES_FULL;
}

import { chemistryOf, type ChemistryName } from '../model/chemistries/registry.ts';
import type { Pack } from '../model/pack.ts';
import type { CellTemperature, PackWarmth } from '../model/temperature.ts';

/** What cold and warmth do to cells of a chemistry, without a brand. Common practice, no source. */
export function typicalTemperature(chemistry: ChemistryName): CellTemperature {
  return chemistryOf(chemistry).temperature;
}

/** [J/(kg·K)] of lithium cells, and [K/W] of one of 18 by 65 mm in still air. Common practice, no source. */
const HEAT_PER_KG = 950;
const ONE_CELL = 12;
/** [kg] where a record does not say. */
const USUAL_MASS = 0.045;

/** How a pack in still air holds and sheds its warmth: more of them side by side have less surface each. A guess to begin with. */
export function typicalWarmth({ cell, series, parallel }: Pack): PackWarmth {
  const count = series * parallel;
  return {
    heatCapacity: Number((HEAT_PER_KG * (cell.mass ?? USUAL_MASS) * count).toPrecision(3)),
    // Surface grows as the volume to two thirds.
    resistance: Number((ONE_CELL / count ** (2 / 3)).toPrecision(2)),
    grade: 'assumed',
  };
}

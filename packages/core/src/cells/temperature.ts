import type { CellRecord } from '../model/cell.ts';
import type { Pack } from '../model/pack.ts';
import type { CellTemperature, PackWarmth } from '../model/temperature.ts';

const SOURCE = 'Typical of its chemistry, resistance taken out of the capacity; common practice, no source';

/** [°C] at which the typical capacities are given. */
const CELSIUS = [-20, -10, 0, 10, 25, 45];

const typical = (activation: number, factors: number[], colder = 0): CellTemperature => ({
  activation,
  capacity: { celsius: CELSIUS, factors },
  selfDischargeDoubles: 10,
  minDischarge: -20 - colder,
  maxDischarge: 60,
  minCharge: colder > 0 ? -20 : 0,
  maxCharge: 45,
  grade: 'typical',
  source: SOURCE,
});

const layered = typical(21000, [0.8, 0.87, 0.94, 0.975, 1, 1.005]);
const OTHERS: Partial<Record<CellRecord['chemistry'], CellTemperature>> = {
  LFP: typical(25000, [0.68, 0.78, 0.89, 0.955, 1, 1.005]),
  LTO: typical(15000, [0.88, 0.92, 0.96, 0.985, 1, 1.005], 10),
};

/** What cold and warmth do to cells of a chemistry, without a brand. Common practice, no source. */
export function typicalTemperature(chemistry: CellRecord['chemistry']): CellTemperature {
  return OTHERS[chemistry] ?? layered;
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

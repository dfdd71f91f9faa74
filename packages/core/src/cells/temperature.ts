import type { CellTemperature } from '../model/temperature.ts';

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

/** What cold and warmth do to cells of a chemistry, without a brand. Common practice, no source. */
export const TYPICAL_TEMPERATURE: Readonly<Record<'layered' | 'LFP' | 'LTO', CellTemperature>> = {
  layered: typical(21000, [0.8, 0.87, 0.94, 0.975, 1, 1.005]),
  LFP: typical(25000, [0.68, 0.78, 0.89, 0.955, 1, 1.005]),
  LTO: typical(15000, [0.88, 0.92, 0.96, 0.985, 1, 1.005], 10),
};

import type { CellTemperature } from '../temperature.ts';

/** What cells of a chemistry have in common, whoever made them. Each figure is common practice, no source, where nothing else is said. */
export interface Chemistry {
  /** how one is spoken of by its full volts, and these [V]; of chemistries that are charged to volts of their own */
  known?: { as: string; full: number };
  /** [V] within which a cell rests, from empty to full */
  rests: readonly [number, number];
  /** [V] below which a cell takes harm */
  harm: number;
  /** how it ages */
  fade: FadeLaw;
  /** what cold and warmth do to it */
  temperature: CellTemperature;
  /** whether it ages by standing full so that people stop below it */
  agesFull: boolean;
  /** [V] of a cell that boards are set to stop at, rising, and the usual one; none where nobody argues over it */
  cutoffs?: { volts: readonly number[]; usual: number };
}

/** How a kind of cells ages. */
export interface FadeLaw {
  /** share of the charge lost in the first year at 25 °C, by time alone */
  calendar: number;
  /** share lost by the first thousand full cycles, at moderate charge and currents */
  cycling: number;
}

/** [°C] at which the typical capacities are given. */
const CELSIUS = [-20, -10, 0, 10, 25, 45];

/**
 * Cold and warmth as is typical of a chemistry.
 * @param activation [J/mol] of its resistance @param factors on the charge at −20, −10, 0, 10, 25 and 45 °C, resistance taken out
 * @param colder [K] by which it may be discharged, and then charged, colder than the others
 */
export function typicalCold(activation: number, factors: number[], colder = 0): CellTemperature {
  return {
    activation,
    capacity: { celsius: CELSIUS, factors },
    selfDischargeDoubles: 10,
    minDischarge: -20 - colder,
    maxDischarge: 60,
    minCharge: colder > 0 ? -20 : 0,
    maxCharge: 45,
    grade: 'typical',
    source: 'Typical of its chemistry, resistance taken out of the capacity; common practice, no source',
  };
}

/** What layered oxides of nickel, manganese and cobalt share; also what is taken of a chemistry that is not known. */
export const LAYERED = {
  // 20 % in 500 cycles, with the square root of their number.
  fade: { calendar: 0.03, cycling: 0.28 },
  temperature: typicalCold(21000, [0.8, 0.87, 0.94, 0.975, 1, 1.005]),
  agesFull: true,
  cutoffs: { volts: [2.5, 2.75, 3.0, 3.2], usual: 3 },
} satisfies Partial<Chemistry>;

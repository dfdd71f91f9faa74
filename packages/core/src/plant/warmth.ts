import type { CellRecord } from '../model/cell.ts';
import type { FactorTable, PackWarmth } from '../model/temperature.ts';
import { cellTable, LOOK } from './cellTable.ts';
import { halve } from '../numeric/halve.ts';

/** [°C] at which the figures of a cell's record hold. */
export const REFERENCE = 25;
const KELVIN = 273.15;
/** [J/(mol·K)] CODATA 2018, exact since 2019. */
const GAS = 8.314462618;

/** A factor over temperature [°C]. */
export interface Factor {
  at(celsius: number): number;
}

const ONE: Factor = { at: () => 1 };

/** What temperature does to a cell, as factors on the figures that hold at 25 °C. */
export interface CellFactors {
  resistance: Factor;
  charge: Factor;
  selfDischarge: Factor;
}

/** Factors of a record; all 1 where it says nothing. */
export function cellFactors(cell: CellRecord): CellFactors {
  const { resistance, activation, capacity, capacityRate, selfDischargeDoubles } = cell.temperature ?? {};
  const ohms = resistance ? tableFactor(resistance) : activation !== undefined ? arrhenius(activation) : ONE;
  return {
    resistance: ohms,
    charge: !capacity
      ? ONE
      : tableFactor(capacityRate ? takenOut(cell, capacity, capacityRate, ohms) : capacity),
    selfDischarge: selfDischargeDoubles !== undefined ? doubling(selfDischargeDoubles) : ONE,
  };
}

const known = new WeakMap<FactorTable, { of: CellRecord; table: FactorTable }>();

/**
 * A charge that was drawn at a rate down to the end volts, with the resistance taken out: what is left in the cell where
 * E(z) − I·R(z) meets the end is more in the cold, and no charge that is gone. What the cell holds is then
 * f·(1 − z(25 °C))/(1 − z(T)). Elementary.
 */
function takenOut(cell: CellRecord, capacity: FactorTable, rate: number, ohms: Factor): FactorTable {
  const before = known.get(capacity);
  if (before?.of === cell) return before.table;
  const stops = (celsius: number) => stopsAt(cell, rate * cell.capacityAh * ohms.at(celsius));
  const given = 1 - stops(REFERENCE);
  const factors = capacity.factors.map((f, k) => (f * given) / (1 - stops(capacity.celsius[k]!)));
  const table = { celsius: capacity.celsius, factors };
  known.set(capacity, { of: cell, table });
  return table;
}

/** State of charge at which a cell comes to its end volts under a current, [A] times the factor on its resistance. */
function stopsAt(cell: CellRecord, amps: number): number {
  const table = cellTable(cell);
  const looked = table.room();
  const stands = (soc: number) => {
    table.look(soc, looked);
    return !(looked[LOOK.ocv]! - amps * table.ohms(looked) < cell.endVolts);
  };
  const [low, high] = halve(0, MOST_LEFT, stands, HALVINGS);
  return (low + high) / 2;
}

/** Most that may be left: a cell that gives nothing at all says nothing of its charge. */
const MOST_LEFT = 0.95;
const HALVINGS = 40;

/** Straight between the points, held beyond. */
function tableFactor({ celsius, factors }: FactorTable): Factor {
  const last = celsius.length - 1;
  const interval = (t: number) => {
    let k = 0;
    while (k < last - 1 && t > celsius[k + 1]!) k++;
    return k;
  };
  const rise = (k: number) => (factors[k + 1]! - factors[k]!) / (celsius[k + 1]! - celsius[k]!);
  return {
    at: (t) => {
      if (t <= celsius[0]!) return factors[0]!;
      if (t >= celsius[last]!) return factors[last]!;
      const k = interval(t);
      return factors[k]! + (t - celsius[k]!) * rise(k);
    },
  };
}

/** e^(Ea/R·(1/T − 1/T0)), falling with warmth, with T0 at 25 °C. Arrhenius' law, textbook. @param activation [J/mol] */
export function arrhenius(activation: number): Factor {
  const over = activation / GAS;
  return { at: (t) => Math.exp(over * (1 / (t + KELVIN) - 1 / (REFERENCE + KELVIN))) };
}

/** Twice as much every so many kelvin: the usual rule of thumb of reaction rates. Common practice, no source. */
function doubling(every: number): Factor {
  return { at: (t) => 2 ** ((t - REFERENCE) / every) };
}

/** Cells that warm themselves: one mass of heat before the air, in a box that the stages warm or in the open. */
export interface Warmth {
  /** [°C] of the air outside */
  air: number;
  /** [K] of the cells above it at the start */
  start: number;
  /** [s] in which they cool by a factor e */
  tau: number;
  /** [K/W] they come to stand above the air per watt of their own */
  own: number;
  /** [K/W] the same per watt lost around them */
  around: number;
  factors: CellFactors;
  /** the air through the day; stays as it is without */
  daily: DailyAir | undefined;
}

/** [s] */
const DAY = 86_400;
/** [s] Cells that only follow the air do so within a minute. */
const AT_ONCE = 60;

/** Air that goes up and down once a day: a cosine. */
export class DailyAir {
  /** [s] of the longest step in which it is a parabola */
  static readonly STEP = 3600;
  private constructor(
    private readonly swing: number,
    private readonly phase: number,
  ) {}

  /** @param swing [K] @param warmestAt, startsAt [h] of the clock */
  static of(swing: number, warmestAt: number, startsAt: number): DailyAir {
    return new DailyAir(swing, (2 * Math.PI * (warmestAt - startsAt)) / 24);
  }

  /** [K] above its mean. @param time [s] since the run began */
  at(time: number): number {
    return this.swing * Math.cos((2 * Math.PI * time) / DAY - this.phase);
  }
}

/** Whether what the loads do comes again in whole days, if at all: only then does the air go with it. */
export function goesWithDays(period: number | undefined): boolean {
  return period === undefined || Math.abs(period / DAY - Math.round(period / DAY)) < 1e-9;
}

/** Cells that are as the air is, where that goes through a day. */
export function followingAir(air: number, factors: CellFactors, daily: DailyAir): Warmth {
  return { air, start: daily.at(0), tau: AT_ONCE, own: 0, around: 0, factors, daily };
}

/**
 * Warmth of a pack: C·dT/dt = q − (T − Tbox)/R1, and the box, which holds no heat of its own, at
 * Tbox = Tair + R2·(q around + (T − Tbox)/R1). So T follows R1 + R2 times its own heat and R2 times the other.
 * @param box [K/W] of the air in the box above that outside; 0 in the open
 */
export function warmthOf(
  { heatCapacity, resistance, start }: PackWarmth,
  air: number,
  box: number,
  factors: CellFactors,
  daily?: DailyAir,
): Warmth {
  const own = resistance + box;
  const from = start === undefined ? (daily?.at(0) ?? 0) : start - air;
  return { air, start: from, tau: heatCapacity * own, own, around: box, factors, daily };
}

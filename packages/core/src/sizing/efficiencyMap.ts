import type { Stage } from '../model/kinds/registry.ts';
import { HOLDS } from '../stages/modes.ts';
import { StagePoint } from '../stages/point.ts';
import { stageSolver } from '../stages/traits.ts';
import { halve } from '../numeric/halve.ts';

/** Efficiency of a stage over its input and its load. */
export interface EfficiencyMap {
  /** [V] rising */
  volts: number[];
  /** [A] rising, equal ratios */
  amps: number[];
  /** [amps][volts]; NaN where the stage does not hold its output */
  efficiency: number[][];
  /** [A] largest output current at each input; NaN where it gives none */
  most: number[];
}

export interface MapRange {
  /** [V] */
  lowVolts: number;
  highVolts: number;
  /** [A] > 0 */
  leastAmps: number;
  mostAmps: number;
}

/**
 * A stage from a stiff supply over a grid of inputs and constant-current loads.
 * @param size points along each side @param air [°C]
 */
export function efficiencyMap(stage: Stage, range: MapRange, size: number, air: number): EfficiencyMap {
  const { lowVolts, highVolts, leastAmps, mostAmps } = range;
  const solve = stageSolver(stage, air);
  const point = new StagePoint();
  const holds = (vin: number, amps: number) => {
    solve(vin, () => amps, point);
    return HOLDS[point.mode]!;
  };
  const along = (k: number) => k / (size - 1);
  const volts = Array.from({ length: size }, (_, k) => lowVolts + along(k) * (highVolts - lowVolts));
  const amps = Array.from({ length: size }, (_, k) => leastAmps * (mostAmps / leastAmps) ** along(k));
  const most = volts.map((v) => largestLoad((i) => holds(v, i), amps[0]!, amps[size - 1]!));
  const efficiency = amps.map((i) =>
    volts.map((v, n) => {
      // Beyond the limit found the search for a folded output would cost more than the rest of the map.
      if (!(i <= most[n]!) || !holds(v, i)) return NaN;
      return (point.outputVolts * point.outputAmps) / (point.inputVolts * point.inputAmps);
    }),
  );
  return { volts, amps, efficiency, most };
}

/** Halvings of a ratio: to about 1e-3. */
const HALVINGS = 11;

/** Largest load that holds, between two that are a ratio apart. */
function largestLoad(holds: (amps: number) => boolean, least: number, most: number): number {
  if (holds(most)) return most;
  if (!holds(least)) return NaN;
  const gone = (log: number) => !holds(Math.exp(log));
  return Math.exp(halve(Math.log(least), Math.log(most), gone, HALVINGS)[0]);
}

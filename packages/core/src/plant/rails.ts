import type { Load } from '../model/load.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { PACK } from '../model/thread.ts';
import { floatsOf } from '../numeric/floats.ts';
import { limitsOf, type Limits } from '../stages/limits.ts';

/** Relative room in comparisons with limits that equal a set point: a 9 V rail is in range from 9 V on. */
export const SLACK = 1e-9;

/** [V] between which each stage's input, and each load, is within its limits. */
export interface Bounds {
  least: Float64Array;
  most: Float64Array;
  lows: Float64Array;
  highs: Float64Array;
  /** [V] from which on a stage that is locked out starts again */
  release: Float64Array;
}

/** Who hangs where: rail 0 is the pack's, rail k + 1 the output of stage k. */
export interface Rails {
  count: number;
  /** of each stage, the strictest stated anywhere */
  limits: readonly Limits[];
  /** [V] the same for each stage's input and each load, with room for limits that equal a set point */
  bounds: Bounds;
  /** rail each stage and each load hangs on */
  ofStage: Int32Array;
  ofLoad: Int32Array;
  /** stages and loads on each rail */
  stagesOn: readonly Int32Array[];
  loadsOn: readonly Int32Array[];
  /** rail of what is called so; the pack's where nothing is */
  named(id: string): number;
}

/** Stages and loads as the rails they hang on. */
export function railsOf(stages: readonly Stage[], loads: readonly Load[]): Rails {
  const limits = stages.map(limitsOf);
  const places = new Map([[PACK as string, 0], ...stages.map((s, k): [string, number] => [s.id, k + 1])]);
  const ofStage = Int32Array.from(stages, (s) => places.get(s.from)!);
  const ofLoad = Int32Array.from(loads, (l) => places.get(l.from)!);
  const count = stages.length + 1;
  return {
    ...{ count, limits, ofStage, ofLoad },
    bounds: {
      least: floatsOf(limits, (l) => l.minInput),
      most: floatsOf(limits, (l) => l.maxInput * (1 + SLACK)),
      release: floatsOf(stages, (s, k) => (isRegulated(s) ? limits[k]!.minInput + s.hysteresis : Infinity)),
      lows: floatsOf(loads, (l) => l.range.min * (1 - SLACK)),
      highs: floatsOf(loads, (l) => l.range.max * (1 + SLACK)),
    },
    stagesOn: membersOf(ofStage, count),
    loadsOn: membersOf(ofLoad, count),
    named: (id) => places.get(id) ?? 0,
  };
}

/** Who hangs on each rail, by the rail each hangs on. */
function membersOf(rails: Int32Array, count: number): Int32Array[] {
  const lists = Array.from({ length: count }, () => [] as number[]);
  rails.forEach((rail, k) => lists[rail]!.push(k));
  return lists.map((list) => new Int32Array(list));
}

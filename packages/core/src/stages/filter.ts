import { highestVoltage } from './highestVoltage.ts';
import { COPPER, type Rail, type StagePlant, type StagePoint, type StageSolver } from './point.ts';

/** [A] no rail draws; stands for one that collapses behind its filter. */
const BEYOND = 1e6;

/** Substitutions of the drop, and the nearness, relative, at which they end: that of the other searches. */
const SUBSTITUTIONS = 16;
const CLOSE = 1e-13;

/**
 * [V] a rail stands at behind a filter of `ohms` when the stage's own output stands at `volts`; NaN where it
 * collapses. The drop is small, so putting it back in converges at once; where it does not, the range is searched.
 */
export function voltsBehind(volts: number, ohms: number, rail: Rail): number {
  let behind = volts;
  for (let k = 0; k < SUBSTITUTIONS; k++) {
    const next = volts - ohms * rail(behind);
    if (!(next > 0)) break;
    if (Math.abs(next - behind) <= CLOSE * volts) return behind;
    behind = next;
  }
  return highestVoltage((v) => volts - ohms * rail(v), volts);
}

/** [A] what a rail draws through a filter; more than anything gives where it collapses behind it. */
export function drawnThrough(volts: number, ohms: number, rail: Rail): number {
  const behind = voltsBehind(volts, ohms, rail);
  return behind > 0 ? rail(behind) : BEYOND;
}

/**
 * Move a stage's point behind its filter: the rail stands lower, the drop is copper's. Where the rail's demand jumps
 * there, the drop is what is between, not what the lesser draw makes: it hunts, and its current is more at times.
 * @param behind [V] of the rail
 */
export function passFilter(point: StagePoint, behind: number): void {
  if (!(point.outputVolts > 0 && behind > 0)) return;
  point.loss[COPPER]! += (point.outputVolts - behind) * point.outputAmps;
  point.outputVolts = behind;
}

/** A stage with its filter as one. */
export function withFilter({ solve, filter }: StagePlant): StageSolver {
  if (!(filter > 0)) return solve;
  return (volts, rail, out) => {
    solve(volts, (own) => drawnThrough(own, filter, rail), out);
    passFilter(out, voltsBehind(out.outputVolts, filter, rail));
  };
}

/** A loss this far from what its neighbours say is an outlier: relative to them. */
const OUTLIER = 0.5;

/** Relative distance of input volts that still count as the same. */
const SAME_INPUT = 0.02;

/** A reading whose loss its neighbours do not bear out, and the loss [W] they suggest. */
export interface Outlier {
  /** its place in the list */
  point: number;
  /** [W] that its neighbours would have it lose */
  expected: number;
}

interface Place {
  /** [V] [A] */
  inputVolts: number;
  outputAmps: number;
}

/** Readings at one load and about one input, lower and higher loads beside them. */
interface Level {
  /** [A], and the readings there */
  amps: number;
  members: number[];
  below: Level | undefined;
  above: Level | undefined;
}

/**
 * Readings far from the straight line between their neighbours in load. The worst one is taken out and its neighbours are
 * looked at again: it made them look odd. Takes n log n to set up and n for each one found.
 * @param losses [W] of each reading
 * @returns by number of the reading
 */
export function outliersOf(points: readonly Place[], losses: readonly number[]): Outlier[] {
  const levels = levelsOf(points);
  const expected = new Float64Array(points.length).fill(NaN);
  const size = new Float64Array(points.length);
  const look = (level: Level | undefined) => {
    for (const n of level?.members ?? []) {
      expected[n] = between(points, losses, level!, n);
      size[n] = oddness(losses[n]!, expected[n]!);
    }
  };
  new Set(levels).forEach(look);
  const found: Outlier[] = [];
  for (;;) {
    let worst = -1;
    for (let n = 0; n < size.length; n++) if (size[n]! > (worst < 0 ? 0 : size[worst]!)) worst = n;
    if (worst < 0) return found.sort((a, b) => a.point - b.point);
    found.push({ point: worst, expected: expected[worst]! });
    size[worst] = 0;
    const level = levels[worst]!;
    level.members.splice(level.members.indexOf(worst), 1);
    if (level.members.length === 0) {
      if (level.below) level.below.above = level.above;
      if (level.above) level.above.below = level.below;
    }
    [level, level.below, level.above].forEach(look);
  }
}

/** The level of each reading; the inputs of a row are those within a share of its lowest. */
function levelsOf(points: readonly Place[]): Level[] {
  const rows: number[][] = [];
  let lowest = NaN;
  for (const n of [...points.keys()].sort((a, b) => points[a]!.inputVolts - points[b]!.inputVolts)) {
    const volts = points[n]!.inputVolts;
    if (!(volts < (1 + SAME_INPUT) * lowest)) {
      rows.push([]);
      lowest = volts;
    }
    rows[rows.length - 1]!.push(n);
  }
  const levels = new Array<Level>(points.length);
  for (const row of rows) {
    let level: Level | undefined;
    for (const n of row.sort((a, b) => points[a]!.outputAmps - points[b]!.outputAmps)) {
      const amps = points[n]!.outputAmps;
      if (level?.amps !== amps) {
        const next: Level = { amps, members: [], below: level, above: undefined };
        if (level) level.above = next;
        level = next;
      }
      level.members.push(n);
      levels[n] = level;
    }
  }
  return levels;
}

/** [W] loss straight between the neighbours in load; NaN at the ends of a row. */
function between(points: readonly Place[], losses: readonly number[], level: Level, n: number): number {
  const beside = level.members.findLast((m) => m !== n);
  const low = beside ?? level.below?.members.at(-1);
  const high = level.above?.members[0];
  if (low === undefined || high === undefined) return NaN;
  const from = points[low]!.outputAmps;
  const share = (points[n]!.outputAmps - from) / (points[high]!.outputAmps - from);
  return losses[low]! + share * (losses[high]! - losses[low]!);
}

/** How odd a loss looks; 0 where it does not. One reading too high makes its neighbours look low, less strongly. */
function oddness(loss: number, expected: number): number {
  if (Number.isNaN(expected)) return 0;
  if (loss <= (1 + OUTLIER) * expected && loss >= (1 - OUTLIER) * expected) return 0;
  const ratio = Math.log(Math.max(loss, 1e-9) / Math.max(expected, 1e-9));
  return ratio > 0 ? ratio : -ratio / 2;
}

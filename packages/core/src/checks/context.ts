import { loadAmps, loadLaw } from '../loads/current.ts';
import { packSource } from '../pack/source.ts';
import type { PackSource } from '../pack/source.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { PACK, type ThreadDocument } from '../model/thread.ts';
import type { RunResult } from '../solver/result.ts';
import { limitsOf, type Limits } from '../stages/limits.ts';
import { loadColumn, LOAD_ROW, ROW, rowStride, stageColumn, STAGE_ROW } from '../solver/series.ts';

/** What every check looks at: the design, its run, and a few readings of the run that several checks share. */
export interface CheckContext {
  doc: ThreadDocument;
  run: RunResult;
  source: PackSource;
  /** of each stage, the strictest stated anywhere */
  limits: readonly Limits[];
  /** [V] largest and smallest input of a stage up to the useful end, and when */
  inputRange(stage: number): Extremes;
  /** largest and smallest of any row value up to the useful end */
  extremes(column: number): Extremes;
  column: typeof columns;
}

export interface Extremes {
  most: number;
  mostTime: number;
  least: number;
  leastTime: number;
  first: number;
}

const columns = {
  packAmps: ROW.packAmps,
  cellVolts: ROW.cellVolts,
  stage: (k: number, value: keyof typeof STAGE_ROW) => stageColumn(k) + STAGE_ROW[value],
  load: (stages: number, k: number, value: keyof typeof LOAD_ROW) => loadColumn(stages, k) + LOAD_ROW[value],
};

export function checkContext(doc: ThreadDocument, run: RunResult): CheckContext {
  const { data, count, stages, loads } = run.series;
  const stride = rowStride(stages, loads);
  const extremes = (column: number): Extremes => {
    const found = { most: -Infinity, mostTime: 0, least: Infinity, leastTime: 0, first: data[column] ?? 0 };
    for (let r = 0; r < count; r++) {
      const time = data[r * stride]!;
      // The rows at the useful end itself come after what ended it: a stage that let go reads zero there.
      if (r > 0 && time >= run.usefulEnd.time) break;
      const value = data[r * stride + column]!;
      if (value > found.most) Object.assign(found, { most: value, mostTime: time });
      if (value < found.least) Object.assign(found, { least: value, leastTime: time });
    }
    return found;
  };
  return {
    doc,
    run,
    source: packSource(doc.pack),
    limits: doc.stages.map(limitsOf),
    extremes,
    inputRange: (k) => extremes(columns.stage(k, 'inputVolts')),
    column: columns,
  };
}

/** [V] of a full pack at rest. */
export function fullPackVolts(doc: ThreadDocument): number {
  return doc.pack.series * doc.pack.cell.fullVolts;
}

/** [V] of a pack whose cells stand at their end voltage. */
export function endPackVolts(doc: ThreadDocument): number {
  return doc.pack.series * doc.pack.cell.endVolts;
}

/** The stage by id, with its place in the list. */
export function stageById(doc: ThreadDocument, id: string): { stage: Stage; index: number } | undefined {
  const index = doc.stages.findIndex((s) => s.id === id);
  return index < 0 ? undefined : { stage: doc.stages[index]!, index };
}

/**
 * [V] largest volts a stage's input can see: the full pack, or the set output of the stage it hangs on. Plain
 * connections and boosts let a higher input through.
 */
export function highestInput(doc: ThreadDocument, from: string): number {
  if (from === PACK) return fullPackVolts(doc);
  const above = stageById(doc, from)?.stage;
  if (!above) return 0;
  if (!isRegulated(above)) return highestInput(doc, above.from);
  return above.kind === 'boost'
    ? Math.max(above.outputVolts, highestInput(doc, above.from) - above.rectifierVolts)
    : above.outputVolts;
}

/** [A] that the loads hanging on `from` ask for at `volts`; what hangs on stages below is not counted. */
export function askedAmps(doc: ThreadDocument, from: string, volts: number): number {
  return doc.loads
    .filter((l) => l.from === from)
    .map(loadLaw)
    .reduce((sum, { law, value }) => sum + loadAmps(law, value, volts), 0);
}

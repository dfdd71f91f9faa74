import { drawn, figuresOf } from '../belief/figures.ts';
import { scoresOf } from '../belief/spread.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compile, SharedPaths } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { stageAt, STAGE_COLUMN } from '../plant/layout.ts';
import { Instant } from '../run/step/instant.ts';
import { CellState } from '../run/step/state.ts';
import { setFigures } from './direct.ts';
import { observed, type Observed } from './predict.ts';
import { valueOf } from './observations.ts';

/** A thread as it might really be: its figures drawn within their tolerances. */
export interface Truth {
  doc: ThreadDocument;
  conditions: Partial<Conditions>;
  /** by the id of each figure, in deviations, or −1…1 of even ones */
  scores: Map<string, number>;
  /** a stage whose set point is where nobody turned it to */
  fault?: { stage: string; volts: number };
}

/** Share by which a set point is off that nobody has turned to where it belongs. */
const FAULT = 0.08;
/** Share by which a rail stands clear of what its loads need. */
const WELL = 1.005;

/**
 * A hidden true version of a thread.
 * @param seed the same for the same truth @param faulty one set point besides is 8 % too high, by the seed
 */
export function truthOf(doc: ThreadDocument, seed: number, faulty = false): Truth {
  const figures = figuresOf(doc);
  const sets = setFigures(doc);
  const own = scoresOf(seed, 0, figures);
  const set = scoresOf(
    seed,
    1,
    sets.map((s) => s.figure),
  );
  const scores = new Map(figures.map((f, k) => [f.id, own[k]!]));
  let other = sets.reduce((d, s, k) => {
    let score = set[k]!;
    // What hangs on a rail works with it as it was bought: one beyond that would have been sent back.
    while (s.figure.kind === 'setPoint' && !worksAt(doc, s.figure.element, valueOf(s, score))) score /= 2;
    scores.set(s.figure.id, score);
    return s.with(d, valueOf(s, score));
  }, doc);
  const rails = doc.stages.filter(isRegulated);
  const rail = faulty ? rails[seed % Math.max(1, rails.length)] : undefined;
  const point = sets.find((s) => s.figure.id === `${rail?.id}.setPoint`);
  let fault: Truth['fault'];
  if (rail && point) {
    const volts = Number((rail.outputVolts * (1 + FAULT)).toPrecision(4));
    fault = { stage: rail.id, volts };
    scores.set(point.figure.id, (2 * FAULT) / point.figure.tolerance);
    other = point.with(other, volts);
  }
  const { doc: varied, conditions = {} } = drawn(other, figures, own);
  return { doc: varied, conditions, scores, ...(fault ? { fault } : {}) };
}

/** Whether loads on a stage that work with it as planned work with other volts too. */
function worksAt({ loads, stages }: ThreadDocument, stage: string, volts: number): boolean {
  const planned = stages.filter(isRegulated).find((s) => s.id === stage)?.outputVolts;
  if (planned === undefined || Math.abs(volts / planned - 1) < 1e-3) return true;
  return loads
    .filter((l) => l.from === stage)
    .every(({ range }) => volts >= range.min * WELL && volts <= range.max / WELL);
}

/** What a truth's readings are, exactly. */
export function observedOf({ doc, conditions }: Pick<Truth, 'doc' | 'conditions'>): Observed {
  return observed(doc, conditions, new SharedPaths());
}

/** Volts and current at every place of a path at an instant. [V] [A] */
export interface Standing {
  packVolts: number;
  packAmps: number;
  /** of each stage by its id */
  rails: Record<string, number>;
}

/**
 * How a thread stands at an instant, everything that draws drawing.
 * @param volts [V] of a supply in the place of the pack; without it the cells feed
 */
export function standing(
  doc: ThreadDocument,
  conditions: Partial<Conditions> = {},
  volts?: number,
): Standing {
  const plant = compile(doc, conditions);
  const { pack, path } = plant;
  const state = new CellState(pack, plant.conditions.startSoc);
  if (volts === undefined) new Instant(plant).solve(state, NaN);
  const packVolts = volts ?? state.volts;
  path.read(packVolts);
  const rails = Object.fromEntries(
    doc.stages.map((s, k) => [s.id, path.columns[stageAt(k) + STAGE_COLUMN.outputVolts]!]),
  );
  return { packVolts, packAmps: path.amps, rails };
}

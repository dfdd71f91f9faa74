import { drawn, figuresOf } from '../belief/figures.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { Conditions } from '../plant/conditions.ts';
import { compile, SharedPaths } from '../plant/compile.ts';
import { stageAt, STAGE_COLUMN } from '../plant/layout.ts';
import { idleDraw } from '../solver/idle.ts';
import { Instant } from '../solver/instant.ts';
import { runPlant } from '../solver/rundown.ts';
import { CellState, pathAmps } from '../solver/state.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import type { Predicted } from './step.ts';

/** Deviations between the middle and 10 % of a normal distribution. */
export const TEN = 1.2815515655446004;

/** What is asked of a thread as its figures stand: by the id of a step. */
export type Values = Map<string, number>;

/**
 * What a thread's readings ought to be, each with the range that its figures' tolerances leave: of the first order, each figure
 * in turn a deviation to either side, their squares added. Textbook (propagation of uncertainty); where a value bends with its
 * figures a range is off by up to a fifth.
 * @returns by the id of a step: `idle`, `draw:MODE` and `sag:MODE` (`draw:` without modes), `run`
 */
export function predictions(doc: ThreadDocument): Map<string, Predicted> {
  const figures = figuresOf(doc);
  const shared = new SharedPaths();
  const scores = new Float64Array(figures.length);
  const at = (k: number, score: number): Values => {
    scores[k] = score;
    const { doc: varied, conditions = {} } = drawn(doc, figures, scores);
    scores[k] = 0;
    return valuesOf(varied, conditions, shared);
  };
  const stated = valuesOf(doc, {}, shared);
  const variance = new Map([...stated.keys()].map((id) => [id, 0]));
  figures.forEach(({ distribution }, k) => {
    // An even score of −1…1 has a deviation of the root of a third.
    const one = distribution === 'normal' ? 1 : Math.sqrt(1 / 3);
    const [low, high] = [at(k, -one), at(k, one)];
    for (const [id, sum] of variance) variance.set(id, sum + ((high.get(id)! - low.get(id)!) / 2) ** 2);
  });
  return new Map(
    [...stated].map(([id, value]) => {
      const ten = TEN * Math.sqrt(variance.get(id)!);
      return [id, { value, p10: value - ten, p90: value + ten }];
    }),
  );
}

/** The values of a thread, by the ids of steps; see `predictions`. */
export function valuesOf(doc: ThreadDocument, conditions: Partial<Conditions>, shared: SharedPaths): Values {
  const values: Values = new Map();
  values.set(
    'run',
    runPlant(compile(doc, conditions, shared), { rows: 0 }).usefulEnd.time / SECONDS_PER_HOUR,
  );
  values.set('idle', idleDraw(compile(doc, conditions, shared)).amps);
  for (const mode of doc.modes?.map((m) => m.id) ?? [undefined]) {
    const plant = compile(doc, { ...conditions, ...(mode === undefined ? {} : { mode }) }, shared);
    const { pack, path } = plant;
    const state = new CellState(pack, plant.conditions.startSoc);
    new Instant(plant).solve(state, NaN);
    path.read(state.volts);
    const name = mode ?? '';
    values.set(`draw:${name}`, pathAmps(pack, state.amps));
    values.set(`sag:${name}`, state.volts);
    doc.stages.forEach((s, k) =>
      values.set(`rail:${s.id}:${name}`, path.columns[stageAt(k) + STAGE_COLUMN.outputVolts]!),
    );
  }
  return values;
}

import { drawn, figuresOf } from '../belief/figures.ts';
import { deviationOf, FirstOrder } from '../belief/firstOrder.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { Allowance } from '../numeric/allowance.ts';
import type { Conditions } from '../plant/conditions.ts';
import { compile, SharedPaths } from '../plant/compile.ts';
import { stageAt, STAGE_COLUMN } from '../plant/layout.ts';
import { Instant } from '../run/step/instant.ts';
import { idleDraw } from '../run/idle.ts';
import { runPlant } from '../run/rundown.ts';
import { CellState, pathAmps } from '../run/step/state.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { courseOf, type Course } from './course.ts';
import type { Predicted } from './step.ts';
import type { Full, Shown } from './steps/kind.ts';
import { STEP_KINDS } from './steps/registry.ts';

/** What is asked of a thread as its figures stand: by the id of a step. */
export type Values = Map<string, number>;

/** Rows of a run where its course is asked for as well. */
const ROWS = 300;
/** What all runs of a plan may cost together; beyond so many stages and loads, of which each demand takes longer, the less. */
const EFFORT = 700_000;
const ELEMENTS = 8;
/** What a run costs besides its steps, for each stage and load. */
const OBSERVED = 600;
/** What an instant of one mode may cost; a few hundred are the rule. */
const INSTANT = 20_000;
/** What a person is told where the ranges leave figures out; undefined where they do not. */
export function leftOutWords({ leftOut }: Pick<Predictions, 'leftOut'>): string | undefined {
  if (leftOut === 0) return undefined;
  const many = leftOut === 1 ? 'one figure of it' : `${leftOut} figures of it`;
  return `To run this thread once for each of its figures takes more work than is allowed: the ranges leave out what ${many} may be off by, and so are too narrow.`;
}

/** Points at which a course's range is told. */
const POINTS = 60;

/** What a thread's readings ought to be, and the course of its run-down. */
export interface Predictions {
  /** by the id of a step, see `StepKind.shows` */
  steps: Map<string, Predicted>;
  course: PredictedCourse;
  /** figures that have no part in the ranges: to run the thread once more for each took more work than is allowed */
  leftOut: number;
}

/** A course at equal shares of the run. */
export interface PredictedCourse {
  /** [h] and there [V] of the pack, with their range */
  hours: number[];
  volts: Predicted[];
  /** [h] the dead end: the range of every hour is in proportion */
  end: Predicted;
}

/**
 * What a thread's readings ought to be, each with the range that its figures' tolerances leave: of the first order, each figure
 * in turn a deviation to either side, to one side where a run takes long, their squares added. Textbook (propagation of uncertainty); where a value bends with its
 * figures a range is off by up to a fifth.
 */
export function predictions(doc: ThreadDocument): Predictions {
  const figures = figuresOf(doc);
  const shared = new SharedPaths();
  const scores = new Float64Array(figures.length);
  const effort = EFFORT / Math.max(1, (doc.stages.length + doc.loads.length) / ELEMENTS);
  const allowance = new Allowance(effort);
  const at = (k: number, score: number) => {
    scores[k] = score;
    const { doc: varied, conditions = {} } = drawn(doc, figures, scores);
    scores[k] = 0;
    return observed(varied, conditions, shared, ROWS, allowance);
  };
  const stated = observed(doc, {}, shared, ROWS, allowance);
  const shares = Array.from({ length: POINTS }, (_, k) => k / (POINTS - 1));
  // At shares of its own run: where one is over another still has its course.
  const all = ({ values, course }: Observed) => [
    ...values.values(),
    ...shares.map((f) => course.at(f * course.end).volts),
    course.end / SECONDS_PER_HOUR,
  ];
  const middle = all(stated);
  const spread = new FirstOrder(middle);
  // Where there is no room for both sides of each figure, one has to do; where most would stay out, what the rest may be off by
  // is no range, and all do.
  const room = allowance.holds(effort - allowance.left);
  const both = room >= 2 * figures.length;
  const none = room < figures.length / 2;
  let leftOut = 0;
  figures.forEach((figure, k) => {
    if (none || allowance.spent) return void leftOut++;
    const one = deviationOf(figure);
    const low = both ? all(at(k, -one)) : middle;
    const high = all(at(k, one));
    // A run cut short says nothing of what it comes to.
    if (allowance.spent) return void leftOut++;
    spread.add(low, high, both ? 2 : 1);
  });
  const told: Predicted[] = spread.ranges();
  const steps = new Map([...stated.values.keys()].map((id, k) => [id, told[k]!]));
  const volts = told.slice(stated.values.size, -1);
  const end = told.at(-1)!;
  return { leftOut, steps, course: { hours: shares.map((f) => f * end.value), volts, end } };
}

/** What would be read of a thread, and how its run-down goes. */
export interface Observed {
  values: Values;
  course: Course;
}

/** The same of a thread as its figures stand, without a range. @param rows of the course; 0: its steps alone */
export function observed(
  doc: ThreadDocument,
  conditions: Partial<Conditions>,
  shared: SharedPaths,
  rows = ROWS,
  allowance?: Allowance,
): Observed {
  const plant = compile(doc, conditions, shared);
  const run = runPlant(plant, { rows, ...(allowance && { allowance }) });
  allowance?.take(OBSERVED * (doc.stages.length + doc.loads.length));
  const known = new Map<string | undefined, Full>();
  const seen: Shown = {
    doc,
    run,
    idle: idleDraw(compile(doc, conditions, shared)).amps,
    full(mode) {
      let full = known.get(mode);
      if (!full) known.set(mode, (full = heldIn(doc, conditions, shared, mode, allowance)));
      return full;
    },
  };
  const values: Values = new Map(STEP_KINDS.flatMap((kind) => kind.shows?.(seen) ?? []));
  return { values, course: courseOf(run) };
}

/** The values of a thread alone, by the ids of steps. */
export function valuesOf(doc: ThreadDocument, conditions: Partial<Conditions>, shared: SharedPaths): Values {
  return observed(doc, conditions, shared, 0).values;
}

/** Currents, volts of the pack and of each rail in a mode, full. */
function heldIn(
  doc: ThreadDocument,
  conditions: Partial<Conditions>,
  shared: SharedPaths,
  mode: string | undefined,
  allowance?: Allowance,
): Full {
  const plant = compile(doc, { ...conditions, ...(mode === undefined ? {} : { mode }) }, shared);
  const { pack, path } = plant;
  const state = new CellState(pack, plant.conditions.startSoc);
  // Not all of what is left: there are other modes, and other figures.
  path.network.effort.allow(allowance?.most(INSTANT) ?? INSTANT);
  new Instant(plant).solve(state, NaN);
  path.read(state.volts);
  allowance?.take(path.network.effort.work);
  return {
    amps: pathAmps(pack, state.amps),
    volts: state.volts,
    rails: doc.stages.map((_, k) => path.columns[stageAt(k) + STAGE_COLUMN.outputVolts]!),
  };
}

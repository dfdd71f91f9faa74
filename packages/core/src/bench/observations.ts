import { drawn, factorOf, figuresOf } from '../belief/figures.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { SharedPaths } from '../plant/compile.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { USUAL_ACCURACY } from './compare.ts';
import { endsOf, lay, type Laid } from './curve.ts';
import { setFigures, type BenchFigure, type SetFigure } from './direct.ts';
import { observed, type Observed } from './predict.ts';
import type { InstrumentKind } from './step.ts';
import { kindOf, readAt } from './steps/registry.ts';

/** Share of the volts, and of the current, by which a course is off by what no figure says. Common practice, no source. */
const COURSE_VOLTS = 0.003;
const COURSE_AMPS = 0.005;

/** One number that was measured. */
export interface Observation {
  /** id of the step, or `curve:NAME` */
  step: string;
  value: number;
  /** one deviation */
  sigma: number;
  /** place of the instrument's own gain among the scores; absent where its accuracy is in `sigma` */
  gain?: number;
  /** whether it is how long a run-down was */
  times?: boolean;
  /** what a thread would show */
  of(seen: Observed): number;
}

/** What may be off, and what was measured. */
export interface Problem {
  figures: BenchFigure[];
  /** shares by which instruments of curves may be off as a whole: a score each, behind those of the figures */
  gains: number[];
  observations: Observation[];
  /** what a thread shows whose figures are off by scores */
  at(scores: ArrayLike<number>): Observed;
  /** the same thread, its figures off by those scores that are given */
  varied(scores: ArrayLike<number>): ReturnType<typeof drawn>;
}

/** How a reading is taken, by its step. */
export function instrumentOf(step: string): InstrumentKind {
  return kindOf(step)?.instrument ?? 'volts';
}

/** What a thread's readings and curves say, and of which figures; undefined where none says anything. */
export function problemOf(doc: ThreadDocument): Problem | undefined {
  // What has been taken over is in the figures already.
  const readings = (doc.readings ?? []).filter((r) => r.taken === undefined);
  const curves = (doc.curves ?? []).filter((c) => c.taken === undefined);
  const own = figuresOf(doc);
  const shared = new SharedPaths();
  const sets = setFigures(doc).filter(({ figure }) =>
    readAt(figure.kind, figure.element).some((at) =>
      readings.some((r) => r.step === at || (at.endsWith(':') && r.step.startsWith(at))),
    ),
  );
  const figures: BenchFigure[] = [...own, ...sets.map((s) => s.figure)];
  const varied = (scores: ArrayLike<number>) => {
    const set = sets.reduce((d, s, k) => s.with(d, valueOf(s, scores[own.length + k]!)), doc);
    return drawn(set, own, scores);
  };
  const rows = curves.length > 0 ? undefined : 0;
  const at = (scores: ArrayLike<number>): Observed => {
    const { doc: other, conditions = {} } = varied(scores);
    return observed(other, conditions, shared, rows);
  };
  const stated = at(new Float64Array(figures.length));
  const observations: Observation[] = [];
  for (const { step, value, accuracy } of readings) {
    if (!stated.values.has(step) || !(value > 0)) continue;
    const sigma = (accuracy ?? USUAL_ACCURACY[instrumentOf(step)]) * value;
    observations.push({
      step,
      value,
      sigma: Math.max(sigma, 1e-12),
      ...(step === 'run' ? { times: true } : {}),
      of: (seen) => seen.values.get(step)!,
    });
  }
  const gains: number[] = [];
  for (const curve of curves) {
    const laid = withinReach(lay(curve, endsOf(stated.course)), stated.course.end);
    const place = (share: number) => figures.length + gains.push(share) - 1;
    observations.push(...ofCurve(curve.name, laid, curve.accuracy, place));
  }
  if (observations.length === 0) return undefined;
  return { figures, gains, observations, at, varied };
}

/** The value of a figure that is set, off by a score. */
export function valueOf({ figure, value }: SetFigure, score: number): number {
  return value * factorOf(figure, score);
}

/** Share of the predicted run behind which a curve that has no end is not compared: where it falls steeply. */
const REACH = 0.9;

/** A curve without an end that goes on behind the predicted one has nothing there to be compared with. */
function withinReach(laid: Laid, predicted: number): Laid {
  if (laid.end !== undefined) return laid;
  return { ...laid, bins: laid.bins.filter((b) => b.seconds < REACH * predicted) };
}

/**
 * Volts and currents of a curve, and its end. Of one that has come to its end they are compared at the same share of the run:
 * how long it is stands for itself, and where one run is over the other still has its own course.
 */
function ofCurve(
  name: string,
  { bins, end, slack }: Laid,
  accuracy: number | undefined,
  place: (share: number) => number,
): Observation[] {
  const step = `curve:${name}`;
  const found: Observation[] = [];
  if (bins.length === 0) return found;
  const at = ({ course }: Observed, seconds: number) =>
    course.at(end === undefined ? seconds : (seconds / end) * course.end);
  const volts = place(accuracy ?? USUAL_ACCURACY.volts);
  for (const bin of bins) {
    found.push({
      step,
      value: bin.volts,
      sigma: COURSE_VOLTS * bin.volts,
      gain: volts,
      of: (seen) => at(seen, bin.seconds).volts,
    });
  }
  if (bins.some((b) => b.amps !== undefined)) {
    const amps = place(accuracy ?? USUAL_ACCURACY.amps);
    for (const bin of bins) {
      if (!bin.amps) continue;
      found.push({
        step,
        value: bin.amps,
        sigma: Math.max(COURSE_AMPS * bin.amps, 1e-9),
        gain: amps,
        of: (seen) => at(seen, bin.seconds).amps,
      });
    }
  }
  if (end !== undefined) {
    const hours = end / SECONDS_PER_HOUR;
    found.push({
      step,
      value: hours,
      sigma: Math.hypot(USUAL_ACCURACY.clock * hours, slack / SECONDS_PER_HOUR),
      times: true,
      // A logger sees the dead end, not when a load has left its range.
      of: ({ course }) => course.end / SECONDS_PER_HOUR,
    });
  }
  return found;
}

import type { ThreadDocument } from '../model/thread.ts';
import { packSource } from '../pack/source.ts';
import { MODES, modeIndex } from '../stages/point.ts';
import { CellState } from './cellState.ts';
import { HoldKeeper } from './hold.ts';
import { idleDraw } from './idle.ts';
import { LedgerSum, type Ledger } from './ledger.ts';
import { EVENT_TOLERANCE, LOOK_TOLERANCE } from './operatingPoint.ts';
import { nosePoint } from './nose.ts';
import { Recorder } from './recorder.ts';
import { summarise, type RunTrace } from './summary.ts';
import type { DeadEnd, RunResult, UsefulEnd } from './result.ts';
import { Signature } from './signature.ts';
import { COLLAPSED, Tree } from './tree.ts';

export interface SimulateOptions {
  /** Largest change of state of charge in one step; 1/400 by default. 1/2000 stores about 2,000 points. */
  maxSocStep?: number;
  /** Largest deviation of a step's end voltage from a straight line, relative; 1e-3 by default. */
  curvature?: number;
}

/** [s] Runs end here at the latest: ten years. */
const TIME_LIMIT = 10 * 365.25 * 86400;
/** [s] First step; the fast branches show themselves within seconds. */
const FIRST_STEP = 0.1;
/** Most a step may grow from one to the next. */
const GROWTH = 2;
/** Steps after which a run is broken off: a safeguard that no design should reach. */
const MOST_STEPS = 200_000;
/** [s] and [fraction of the run so far], the larger, to which events are located. */
const EVENT_SECONDS = 1e-3;
const EVENT_FRACTION = 1e-6;

const COLLAPSED_MODE = modeIndex('collapsed');

/**
 * Run a thread down from its starting charge to its dead end with every load on.
 * @param doc a valid document (decodeThread); a programmer's error otherwise
 * @returns the whole run; never NaN, always ends
 */
export function simulate(doc: ThreadDocument, options: SimulateOptions = {}): RunResult {
  return new Run(doc, options).toEnd();
}

class Run {
  private readonly state: CellState;
  private readonly holds: HoldKeeper;
  private readonly ledger: LedgerSum;
  private readonly recorder: Recorder;
  private readonly before: Signature;
  private readonly after: Signature;
  private readonly trace: RunTrace = { extended: new Set(), cycling: [] };
  private readonly maxSocStep: number;
  private readonly curvature: number;
  private readonly counts = { steps: 0, rejected: 0, located: 0 };
  private time = 0;
  private useful: { end: UsefulEnd; ledger: Ledger } | undefined;

  constructor(
    private readonly doc: ThreadDocument,
    options: SimulateOptions,
  ) {
    this.maxSocStep = options.maxSocStep ?? 1 / 400;
    this.curvature = options.curvature ?? 1e-3;
    this.state = new CellState(packSource(doc.pack), new Tree(doc), doc.pack.startSoc);
    this.holds = new HoldKeeper(this.state);
    this.ledger = new LedgerSum(this.state);
    this.recorder = new Recorder(this.state, Math.ceil(1.2 / this.maxSocStep) + 64);
    this.before = new Signature(this.state, doc.pack);
    this.after = new Signature(this.state, doc.pack);
  }

  toEnd(): RunResult {
    const idle = idleDraw(this.doc, this.state.source, this.state.soc);
    const dead = this.run();
    const atDead = this.ledger.close();
    const useful = this.useful ?? { end: { time: dead.time }, ledger: atDead };
    const series = this.recorder.finish();
    return summarise(this.doc, this.state.source, {
      series,
      usefulEnd: useful.end,
      deadEnd: dead,
      ledger: useful.ledger,
      ledgerAtDead: atDead,
      idle,
      trace: this.trace,
      counts: this.counts,
    });
  }

  private run(): DeadEnd {
    this.holds.holdHopeless();
    if (this.holds.settle(NaN).status === 'none') return this.collapse();
    this.enter();
    let h = FIRST_STEP;
    // [V/s] of the pack voltage over the last step, and [V/s²] how it changed from the one before
    let slope = 0;
    let bend = 0;
    let lastStep = 0;
    for (;;) {
      const ended = this.ended();
      if (ended) return { time: this.time, reason: ended };
      const { soc, cellAmps, source } = this.state;
      if (cellAmps <= 0) return { time: this.time, reason: 'nothingDraws' };
      const bySoc = (this.maxSocStep * source.charge) / cellAmps;
      h = Math.min(h, bySoc, TIME_LIMIT - this.time);
      // Towards empty everything bends: no step takes more than a fifth of what is left, down to dust.
      if (soc > 1e-6)
        h = Math.min(h, Math.max(0.2 * soc, 1e-4 * this.maxSocStep) * (source.charge / cellAmps));
      const startVolts = this.state.volts;
      const startTime = this.time;
      // Where the last two steps point to: a start this close spares the solver an evaluation or two.
      const expected = startVolts + h * (slope + (bend * (h + lastStep)) / 2);
      const tried = this.step(h, startVolts, slope, expected);
      if (tried === 'rejected') {
        h /= 2;
        continue;
      }
      if (tried === 'event') {
        const end = this.locate(h, startVolts);
        if (end) return end;
        slope = bend = 0;
        h = Math.min(h, Math.max(FIRST_STEP, (this.time - startTime) / 4));
        continue;
      }
      const now = (this.state.volts - startVolts) / h;
      bend = slope === 0 ? 0 : (2 * (now - slope)) / (h + lastStep);
      slope = now;
      lastStep = h;
      h *= tried;
    }
  }

  /**
   * Try one step of h. On success everything has moved and the growth for the next step is returned.
   * `event`: something discontinuous lies inside; nothing has moved. `rejected`: too bent; nothing has moved.
   */
  private step(
    h: number,
    startVolts: number,
    slope: number,
    expected: number,
  ): number | 'event' | 'rejected' {
    const saved = this.save();
    const end = this.advance(h, startVolts, expected, LOOK_TOLERANCE);
    if (end === 'lost' || this.after.read().differs(this.before)) {
      this.restore(saved);
      return 'event';
    }
    const bend = Math.abs(this.state.volts - (startVolts + slope * h)) / (this.curvature * startVolts);
    if (bend > 1 && h > 2 * FIRST_STEP) {
      this.restore(saved);
      this.counts.rejected++;
      return 'rejected';
    }
    this.accept(h);
    // The bend grows as the square of the step.
    return Math.min(GROWTH, 0.9 / Math.sqrt(bend + 1e-3));
  }

  /**
   * Mean step and instant at its end; the ledger holds the step ready, `accept` books it.
   * @param expected [V] where the step should end, near enough to start the search from
   */
  private advance(
    h: number,
    startVolts: number,
    expected: number,
    tolerance = EVENT_TOLERANCE,
  ): 'ok' | 'lost' {
    const middle = (startVolts + expected) / 2;
    const mean = this.state.solveMean(h, middle);
    if (mean.status !== 'converged') return 'lost';
    this.ledger.stage(h);
    this.state.advance();
    const end = this.state.solveInstant(expected + 2 * (mean.volts - middle), tolerance);
    return end.status === 'converged' ? 'ok' : 'lost';
  }

  /** Book the step that `advance` has just made. */
  private accept(h: number): void {
    this.ledger.commit();
    this.time += h;
    this.noteExtended();
    this.recorder.keep(this.time);
    if (++this.counts.steps > MOST_STEPS) {
      throw new Error(`simulate: ${MOST_STEPS} steps at ${this.time} s without an end`);
    }
  }

  /**
   * An event lies within h: close in on the first one, step up to it and let it happen.
   * @returns the dead end when the pack collapses there
   */
  private locate(h: number, near: number): DeadEnd | undefined {
    this.counts.located++;
    const saved = this.save();
    let low = 0;
    let high = h;
    const tolerance = Math.max(1e-9, Math.min(EVENT_SECONDS, 0.1 * h), EVENT_FRACTION * this.time);
    while (high - low > tolerance) {
      const middle = (low + high) / 2;
      if (middle <= low || middle >= high) break;
      const lost = this.advance(middle, near, near) === 'lost' || this.after.read().differs(this.before);
      this.restore(saved);
      if (lost) high = middle;
      else low = middle;
    }
    // Just past the event the new state is known, unless there is none: then the last good instant counts.
    const past = this.advance(high, near, near);
    const failed = past === 'lost' ? this.collapsedStages() : [];
    if (past === 'ok') this.accept(high);
    else {
      this.restore(saved);
      if (low > 0 && this.advance(low, near, near) === 'ok') this.accept(low);
      else this.state.solveInstant(near);
    }
    for (const k of failed) this.state.tree.hold(k, COLLAPSED);
    if (past === 'lost' && failed.length === 0) return this.collapse();
    if (this.holds.settle(NaN).status === 'none') return this.collapse();
    this.enter();
    return undefined;
  }

  /** Take up the present instant after something changed: note what ends here, keep a row of it. */
  private enter(): void {
    this.before.read();
    this.ledger.setRanges(this.before.ranges);
    this.recorder.keep(this.time);
    for (const k of this.holds.cycling) {
      const stage = this.doc.stages[k]!.id;
      if (!this.trace.cycling.some((c) => c.stage === stage))
        this.trace.cycling.push({ stage, time: this.time });
    }
    if (this.useful) return;
    const essential = this.doc.loads.some((l) => l.essential);
    const out = this.doc.loads.findIndex(
      (l, k) => (l.essential || !essential) && this.before.ranges[k] !== 1,
    );
    if (out < 0) return;
    const { id } = this.doc.loads[out]!;
    const side = this.before.ranges[out] === 2 ? 'high' : 'low';
    const end: UsefulEnd = { time: this.time, load: { id, side, volts: this.state.tree.loadVolts[out]! } };
    const stage = this.culprit(this.doc.loads[out]!.from);
    if (stage) end.stage = stage;
    this.useful = { end, ledger: this.ledger.close() };
  }

  /** The stage on the way from the pack to `from` that stopped regulating first, seen from the pack. */
  private culprit(from: string): UsefulEnd['stage'] {
    const way: number[] = [];
    for (let at = from; ; ) {
      const k = this.doc.stages.findIndex((s) => s.id === at);
      if (k < 0) break;
      way.unshift(k);
      at = this.doc.stages[k]!.from;
    }
    const failing = ['dropout', 'currentLimit', 'lockedOut', 'overInput', 'collapsed', 'passThrough'];
    for (const k of way) {
      const mode = MODES[this.state.tree.points[k]!.mode]!;
      if (failing.includes(mode)) return { id: this.doc.stages[k]!.id, mode };
    }
    return undefined;
  }

  private ended() {
    if (this.before.cutoff) return 'cutoff' as const;
    if (this.before.trip) return 'trip' as const;
    if (this.before.empty) return 'empty' as const;
    if (this.time >= TIME_LIMIT * (1 - 1e-12)) return 'timeLimit' as const;
    return undefined;
  }

  private collapse(): DeadEnd {
    const nose = nosePoint(this.state);
    return { time: this.time, reason: 'collapse', ...(nose ? { nose } : {}) };
  }

  /** Stages whose rail has collapsed while not yet held for it. */
  private collapsedStages(): number[] {
    const { tree } = this.state;
    return tree.points.flatMap((p, k) => (p.mode === COLLAPSED_MODE && tree.held[k] === 0 ? [k] : []));
  }

  private noteExtended(): void {
    const { points } = this.state.tree;
    for (let k = 0; k < points.length; k++) {
      if (points[k]!.extended) this.trace.extended.add(this.doc.stages[k]!.id);
    }
  }

  private save(): Saved {
    const { soc, branchVolts, cellAmps, volts } = this.state;
    return { soc, branch0: branchVolts[0] ?? 0, branch1: branchVolts[1] ?? 0, cellAmps, volts };
  }

  private restore(saved: Saved): void {
    const { state } = this;
    state.soc = saved.soc;
    if (state.branchVolts.length > 0) state.branchVolts[0] = saved.branch0;
    if (state.branchVolts.length > 1) state.branchVolts[1] = saved.branch1;
    state.cellAmps = saved.cellAmps;
    state.volts = saved.volts;
  }
}

interface Saved {
  soc: number;
  branch0: number;
  branch1: number;
  cellAmps: number;
  volts: number;
}

import type { Plant } from '../plant/compile.ts';
import { CycleProbe } from './cycleProbe.ts';
import { EnvelopeSum } from './envelope.ts';
import { March } from './march.ts';
import type { Recorder } from './recorder.ts';
import type { DeadEnd, DeadReason, Worked, EnvelopeRow } from './result.ts';
import type { Schedule, Stretch } from './schedule.ts';
import { CycleSkip } from './skip.ts';
import { SteadyRun, TIME_LIMIT, type RunOptions } from './steady.ts';
import { Trace } from './trace.ts';

/** Cycles taken one by one before the first skip, and after one that could not be. */
const ONE_BY_ONE = 12;
/** How much more a step may bend where cycles are tried. */
const ROUGHER = 10;
/** Where loads switch all the time a step begins longer and grows faster; one that bends too much is taken again. */
const PROGRAMMED = { first: 1, growth: 9 };
/** Cycles taken one by one in all before a run is given up. */
const MOST_CYCLES = 4000;

/**
 * The driver of a programme: it switches the loads from mode to mode. Of many cycles alike most are skipped; those at the
 * start, around every change and at the end are taken one by one.
 */
export class ProgrammedRun extends SteadyRun {
  private readonly skipper: CycleSkip;
  /** the stretch the run is in, and cycles done */
  private now: Stretch;
  private done = 0;
  private readonly envelope: EnvelopeSum;
  private readonly everyCycle: boolean;

  constructor(
    plant: Plant,
    options: RunOptions,
    recorder: Recorder | undefined,
    private readonly schedule: Schedule,
  ) {
    super(plant, { ...PROGRAMMED, ...options }, recorder);
    this.everyCycle = options.everyCycle ?? false;
    this.now = schedule.first[0]!;
    const { state, ledger, holds, counts, steps } = this;
    const rough = {
      ...steps,
      bend: ROUGHER * steps.bend,
      twist: ROUGHER * steps.twist,
    };
    const trace = new Trace(plant);
    const quiet = new March(plant, state, ledger, trace, undefined, counts, rough);
    const probe = new CycleProbe(plant, state, quiet, trace, ledger, holds, schedule, this.loads.shed);
    this.envelope = new EnvelopeSum(plant, ledger);
    this.skipper = new CycleSkip(plant, state, probe, schedule, this.envelope, this.ledger);
  }

  protected override worked(): Worked {
    const { modes = [] } = this.plant.doc;
    const endsIn = modes[this.now.mode]?.id;
    return {
      cycles: this.done,
      ...(endsIn === undefined ? {} : { endsIn }),
      resets: this.resets(),
      modes: this.ledger.byMode().map((sums, k) => {
        const lowest = this.trace.lowestVolts()[k]!;
        return { mode: modes[k]!.id, ...sums, ...(sums.seconds > 0 ? { lowest } : {}) };
      }),
    };
  }

  /** The volts of its cycles, those that were skipped by a few of them. */
  override envelopeRows(): EnvelopeRow[] {
    return this.envelope.rows;
  }

  private resets(): Record<string, number> {
    const { loads } = this.plant.path;
    const skipped = this.skipper.probe.loads.resets;
    const all = Array.from(this.loads.resets, (own, l) => own + skipped[l]!);
    return Object.fromEntries(all.flatMap((n, l) => (n > 0 ? [[loads[l]!.id, n]] : [])));
  }

  protected override run(): DeadEnd {
    const { schedule, state, counts } = this;
    this.load(schedule.first[0]!);
    const never = this.begin();
    if (never) return never;
    let single = ONE_BY_ONE;
    for (let of = schedule.first; ; of = schedule.stretches) {
      const { soc, time } = state;
      this.trace.begin();
      this.envelope.begin();
      const dead = this.cycle(of);
      const took = soc - state.soc;
      const seconds = state.time - time;
      const cut = dead !== undefined;
      this.envelope.keep({ time, soc, took, trace: this.trace, seconds, weight: 1, cut });
      if (dead) return dead;
      if (!schedule.repeats) return this.marchTo(TIME_LIMIT) ?? { time: state.time, reason: 'timeLimit' };
      if (!(state.soc < soc)) return { time: state.time, reason: 'nothingDraws' };
      if (++counts.cycles > MOST_CYCLES && !this.everyCycle)
        return { time: state.time, reason: 'unfinished' };
      if (state.time >= TIME_LIMIT) return { time: state.time, reason: 'timeLimit' };
      if (--single <= 0 && !this.everyCycle && this.skipper.mayBe(took)) {
        const skipped = this.skipper.skip(TIME_LIMIT);
        counts.skipped += skipped;
        this.done += skipped;
        single = skipped > 0 ? 1 : ONE_BY_ONE;
      }
      const again = this.switchTo(schedule.stretches[0]!);
      if (again) return again;
    }
  }

  /** One cycle from the start, its branches settled to those before it where they settle. @returns whether it was carried */
  oneCycle(): boolean {
    const { schedule, state } = this;
    const { soc } = state;
    const settled = schedule.repeats ? this.skipper.probe.settle(soc) : undefined;
    Object.assign(state, { soc, time: 0, volts: NaN, amps: NaN });
    if (settled) state.put(settled.slow);
    else state.rest();
    this.load(schedule.stretches[0]!);
    return !this.begin() && !this.cycle(schedule.stretches);
  }

  /** All stretches, the first of which has begun. */
  private cycle(of: readonly Stretch[]): DeadEnd | undefined {
    const { state } = this;
    let edge = state.time;
    for (const [k, stretch] of of.entries()) {
      edge = Math.min(edge + stretch.seconds, TIME_LIMIT);
      const dead = (k > 0 ? this.switchTo(stretch) : undefined) ?? this.marchTo(edge);
      if (dead) return dead;
    }
    this.done++;
    return undefined;
  }

  /** Switch the loads. @returns the end where they cannot be carried */
  private switchTo(stretch: Stretch): DeadEnd | undefined {
    this.load(stretch);
    if (!this.settle(this.state.volts)) return this.collapse();
    this.enter();
    this.march.enter(true);
    return undefined;
  }

  private load(stretch: Stretch): void {
    this.now = stretch;
    this.ledger.mode = stretch.mode;
    this.loads.begin(stretch.draws, stretch.enters);
  }

  /** A mode in which nothing draws is no end. */
  protected override ended(): DeadReason | undefined {
    const why = super.ended();
    return why === 'nothingDraws' ? undefined : why;
  }
}

import type { Plant } from '../plant/compile.ts';
import { CycleProbe } from './cycleProbe.ts';
import { March } from './march.ts';
import type { Recorder } from './recorder.ts';
import type { DeadEnd, DeadReason, Worked } from './result.ts';
import type { Schedule, Stretch } from './schedule.ts';
import { CycleSkip } from './skip.ts';
import { SteadyRun, TIME_LIMIT, type RunOptions } from './steady.ts';
import { Trace } from './trace.ts';

/** Cycles taken one by one before the first skip, and after something changed in them. */
const ONE_BY_ONE = 12;
/** How much more a step may bend where cycles are tried. */
const ROUGHER = 10;
/** Cycles taken one by one in all before a run is given up. */
const MOST_CYCLES = 4000;

/**
 * The driver of a programme: it switches the loads from mode to mode. Of many cycles alike most are skipped; those at the
 * start, around every change and at the end are taken one by one.
 */
export class ProgrammedRun extends SteadyRun {
  private readonly skipper: CycleSkip;
  /** the stretch the run is in, and cycles done */
  private at = 0;
  private done = 0;
  private readonly everyCycle: boolean;

  constructor(
    plant: Plant,
    options: RunOptions,
    recorder: Recorder | undefined,
    private readonly schedule: Schedule,
  ) {
    super(plant, options, recorder);
    this.everyCycle = options.everyCycle ?? false;
    const { state, ledger, holds, counts, steps } = this;
    const rough = { ...steps, bend: ROUGHER * steps.bend, twist: ROUGHER * steps.twist };
    const quiet = new March(plant, state, ledger, new Trace(plant), undefined, counts, rough);
    const probe = new CycleProbe(plant, state, quiet, ledger, holds, schedule);
    this.skipper = new CycleSkip(plant, state, probe, schedule);
  }

  protected override worked(): Worked {
    const modes = this.plant.doc.modes!;
    return {
      cycles: this.done,
      endsIn: modes[this.schedule.stretches[this.at]!.mode]!.id,
      modes: this.ledger.byMode().map((sums, k) => {
        const lowest = this.trace.lowestVolts()[k]!;
        return { mode: modes[k]!.id, ...sums, ...(sums.seconds > 0 ? { lowest } : {}) };
      }),
    };
  }

  protected override run(): DeadEnd {
    const { schedule, state, counts } = this;
    this.load(schedule.stretches[0]!);
    const never = this.begin();
    if (never) return never;
    let single = ONE_BY_ONE;
    for (;;) {
      const soc = state.soc;
      const dead = this.cycle();
      if (dead) return dead;
      if (!schedule.repeats) return this.marchTo(TIME_LIMIT) ?? { time: state.time, reason: 'timeLimit' };
      if (!(state.soc < soc)) return { time: state.time, reason: 'nothingDraws' };
      if (++counts.cycles > MOST_CYCLES && !this.everyCycle)
        return { time: state.time, reason: 'unfinished' };
      if (state.time >= TIME_LIMIT) return { time: state.time, reason: 'timeLimit' };
      if (--single <= 0 && !this.everyCycle) {
        const skipped = this.skipper.skip(TIME_LIMIT);
        counts.skipped += skipped;
        this.done += skipped;
        single = skipped > 0 ? 1 : ONE_BY_ONE;
      }
      const again = this.switchTo(0);
      if (again) return again;
    }
  }

  /** All stretches, the first of which has begun. */
  private cycle(): DeadEnd | undefined {
    const { schedule, state } = this;
    let edge = state.time;
    for (const [k, { seconds }] of schedule.stretches.entries()) {
      const dead = (k > 0 ? this.switchTo(k) : undefined) ?? this.marchTo((edge += seconds));
      if (dead) return dead;
    }
    this.done++;
    return undefined;
  }

  /** Switch the loads. @returns the end where they cannot be carried */
  private switchTo(k: number): DeadEnd | undefined {
    this.at = k;
    this.load(this.schedule.stretches[k]!);
    if (this.holds.settle(this.state.volts).status === 'none') return this.collapse();
    this.enter();
    this.march.enter(true);
    return undefined;
  }

  private load({ factors, mode }: Stretch): void {
    this.ledger.mode = mode;
    this.plant.path.setFactors(factors);
  }

  /** A mode in which nothing draws is no end. */
  protected override ended(): DeadReason | undefined {
    const why = super.ended();
    return why === 'nothingDraws' ? undefined : why;
  }
}

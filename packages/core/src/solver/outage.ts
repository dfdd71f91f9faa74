import type { Draws } from '../loads/draws.ts';
import { loadAmps } from '../loads/current.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { CARRIES } from '../plant/joint.ts';
import { carriesIn } from '../plant/charger.ts';
import { compileCharging, type Plant } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { RANGE } from '../plant/railState.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import { ChargeKeeper, MOST_TURNS } from './chargeKeeper.ts';
import { ChargeReading } from './chargeReading.ts';
import type { OutageResult, Stretched, Who } from './outageResult.ts';
import { PACK_EVENT } from './events.ts';
import { Recorder } from './recorder.ts';
import type { DeadEnd, DeadReason } from './result.ts';
import { restInTheDark } from './dark.ts';
import { meanDraws, stretchAt } from './atTime.ts';
import { scheduleOf, type Schedule, type Stretch } from './schedule.ts';
import { SteadyRun, type RunOptions } from './steady.ts';

/** [s] Programmes that repeat faster than this are taken by their mean: an hour. */
const SLOW = SECONDS_PER_HOUR;
/** Rows for a whole charge. */
const ROWS = 24;

/** Mains that is gone. [s] */
export interface Gone {
  from: number;
  to: number;
}

/**
 * The driver of a timeline of mains: it switches mains and loads, and minds the charger. Where the pack gives nothing more, all
 * is dark until mains or the loads change. It holds no physics.
 */
export class OutageRun extends SteadyRun {
  private readonly keeper: ChargeKeeper;
  readonly who: Stretched<Who>[] = [];
  readonly dark: Gone[] = [];
  /** [J] that the loads did not get */
  unserved = 0;
  private readonly usual: Draws;
  private mains = true;
  /** [s] since when it is dark */
  private since: number | undefined;
  private stretch: Stretch | undefined;
  /** [s] when mains or the loads are switched, rising */
  private readonly edges: readonly number[];
  /** outages that are over */
  private passed = 0;

  constructor(
    plant: Plant,
    options: RunOptions,
    recorder: Recorder,
    private readonly gone: readonly Gone[],
    private readonly horizon: number,
    private readonly schedule: Schedule | undefined,
    private readonly means: Draws | undefined,
  ) {
    super(plant, options, recorder);
    this.keeper = new ChargeKeeper(plant, this.state, true);
    this.usual = plant.path.network.draws;
    this.edges = this.switches();
  }

  protected override run(): DeadEnd {
    const { state, horizon, edges } = this;
    let at = 0;
    this.turn(0);
    this.load(0);
    let dead: DeadEnd | undefined = this.begin();
    for (;;) {
      while (at < edges.length && !(edges[at]! > state.time * (1 + 1e-12) + 1e-9)) at++;
      const next = Math.min(horizon, edges[at] ?? horizon);
      dead ??= this.marchTo(next);
      if (dead?.reason === 'unfinished') return dead;
      if (dead) this.wait(next);
      if (state.time >= horizon * (1 - 1e-12)) break;
      dead = this.takeUp();
    }
    this.lightUp();
    this.close();
    return { time: state.time, reason: 'timeLimit' };
  }

  /** [s] when mains or the loads are switched, rising. */
  private switches(): number[] {
    const times = this.gone.flatMap((g) => [g.from, g.to]);
    const { schedule, horizon } = this;
    if (schedule) {
      let at = 0;
      for (let of = schedule.first; at < horizon; of = schedule.stretches) {
        for (const { seconds } of of) if (at < horizon) times.push((at += seconds));
        if (!schedule.repeats) break;
      }
    }
    return [...new Set(times)].filter((t) => t > 0 && t < horizon).sort((a, b) => a - b);
  }

  /** Switch mains and loads as they are now, and go on. @returns the end where nothing can be carried */
  private takeUp(): DeadEnd | undefined {
    const { state } = this;
    this.turn(state.time);
    this.load(state.time);
    if (!this.settle(NaN)) return this.collapse();
    this.enter();
    this.march.enter(true);
    return undefined;
  }

  /** The outage that a time lies in, or the next one. */
  private goneAt(time: number): Gone | undefined {
    const { gone } = this;
    while (this.passed < gone.length && !(time < gone[this.passed]!.to - 1e-9)) this.passed++;
    return gone[this.passed];
  }

  private turn(time: number): void {
    const now = this.goneAt(time);
    const on = !(now && time >= now.from - 1e-9);
    if (on === this.mains && time > 0) return;
    this.mains = on;
    this.holds.afresh();
    this.keeper.setMains(on);
  }

  private load(time: number): void {
    const { schedule, means } = this;
    if (!schedule) {
      // Power that comes back switches on what has stopped.
      this.loads.begin(means ?? this.usual, true);
      return;
    }
    this.stretch = stretchAt(schedule, time);
    this.ledger.mode = this.stretch.mode;
    this.loads.begin(this.stretch.draws, true);
  }

  /** Nothing is given any more: dark until something is switched that may change that. */
  private wait(next: number): void {
    const { state, plant, recorder } = this;
    const from = state.time;
    const back = this.mains ? next : (this.goneAt(from)?.to ?? this.horizon);
    const to = Math.min(back, this.horizon);
    state.soc = Math.max(0, state.soc);
    const dark = () => {
      plant.path.rest();
      recorder?.keep(state.time, { soc: state.soc, volts: 0, amps: 0, ocv: plant.pack.cell.ocv(state.soc) });
    };
    dark();
    this.goDark();
    if (to > from) restInTheDark(plant, state, this.ledger, to - from);
    state.time = to;
    dark();
    this.guard.reset();
  }

  /** [J] the loads would have taken, by their mean draw at the volts of their rails. */
  private wanted(from: number, to: number): number {
    const { schedule, plant, means } = this;
    const watts = (draws: Draws) =>
      plant.path.loads.reduce((sum, load, l) => {
        const stage = plant.path.stages.find((s) => s.id === load.from);
        const volts =
          stage && isRegulated(stage)
            ? stage.outputVolts
            : Math.min(load.range.max, plant.pack.series * plant.pack.cell.ocv(0.5));
        const amps = loadAmps(draws.laws[l]!, draws.values[l]!, draws.slopes[l]!, volts);
        return sum + draws.factors[l]! * amps * volts;
      }, 0);
    if (!schedule) return (to - from) * watts(means ?? plant.path.network.draws);
    let joules = 0;
    const { edges } = this;
    let k = firstAbove(edges, from);
    for (let at = from; at < to; k++) {
      const until = Math.min(to, edges[k] ?? to);
      joules += (until - at) * watts(stretchAt(schedule, at).draws);
      at = until;
    }
    return joules;
  }

  protected override due(): number {
    return Math.min(super.due(), this.keeper.due());
  }

  protected override settle(near: number): boolean {
    let at = near;
    for (let turn = 0; turn < MOST_TURNS; turn++) {
      if (!super.settle(at)) return false;
      if (!this.keeper.react()) return true;
      at = NaN;
    }
    return true;
  }

  protected override enter(): void {
    super.enter();
    const { path } = this.plant;
    const { joint } = path.network;
    // A load that has given way is dropped, whatever its rail then stands at.
    if (this.isDown()) return this.goDark();
    this.lightUp();
    if (!joint) return this.note(this.mains ? 'adapter' : 'battery');
    this.note(WHO[carriesIn(path.signature, path.stages.length, path.loads.length)]!);
  }

  /** Whether an essential load gets too little, or has given way though it is wanted. */
  private isDown(): boolean {
    const { path } = this.plant;
    return path.loads.some(
      (load, l) =>
        load.essential && !this.loads.isOff(l) && (path.network.isOff(l) || path.rangeOf(l) === RANGE.low),
    );
  }

  private goDark(): void {
    this.note('nobody');
    this.since ??= this.state.time;
  }

  private lightUp(): void {
    const { since, state } = this;
    this.since = undefined;
    if (since === undefined || !(state.time > since)) return;
    this.unserved += this.wanted(since, state.time);
    const last = this.dark.at(-1);
    if (last && since - last.to < 1e-6) last.to = state.time;
    else this.dark.push({ from: since, to: state.time });
  }

  private note(who: Who): void {
    const last = this.who.at(-1);
    if (last?.what === who) return;
    this.close();
    this.who.push({ what: who, from: this.state.time, to: this.state.time });
  }

  private close(): void {
    const last = this.who.at(-1);
    if (last) last.to = this.state.time;
  }

  protected override ended(): DeadReason | undefined {
    const { state, march } = this;
    if (state.amps <= 0 && !(march.before.pack & PACK_EVENT.empty)) return undefined;
    if (state.amps <= 0) return undefined;
    const why = super.ended();
    return why === 'nothingDraws' ? undefined : why;
  }
}

/** Place of the first of rising numbers above one. */
function firstAbove(rising: readonly number[], x: number): number {
  let [low, high] = [0, rising.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rising[middle]! > x) high = middle;
    else low = middle + 1;
  }
  return low;
}

const WHO: Readonly<Record<number, Who>> = {
  [CARRIES.battery]: 'battery',
  [CARRIES.both]: 'both',
  [CARRIES.adapter]: 'adapter',
  [CARRIES.nobody]: 'nobody',
};

/**
 * A timeline of mains.
 * @param doc a thread that says how it is charged; a programmer's error otherwise
 * @param gone when mains is gone, in order, apart from each other @param horizon [s]
 */
export function outage(
  doc: ThreadDocument,
  gone: readonly Gone[],
  horizon: number,
  conditions: Partial<Conditions> = {},
  options: RunOptions = {},
): OutageResult {
  const plant = compileCharging(doc, { startSoc: 1, ...conditions });
  const found = plant.conditions.mode === undefined ? scheduleOf(plant.doc) : undefined;
  const slow = found && (!found.repeats || found.period >= SLOW) ? found : undefined;
  const means = found && !slow ? meanDraws(plant.doc, found) : undefined;
  const recorder = new Recorder(plant, options.rows ?? ROWS);
  const run = new OutageRun(plant, options, recorder, gone, horizon, slow, means);
  const answers = run.toEnd();
  const series = recorder.finish();
  return {
    end: { time: answers.deadEnd.time, whole: answers.deadEnd.reason === 'timeLimit' },
    who: run.who.filter((w) => w.to > w.from),
    dark: run.dark,
    unserved: run.unserved,
    byMean: means !== undefined,
    lowest: lowestOf(new ChargeReading(series)),
    ledger: answers.ledgerAtDead,
    loadRanges: answers.loadRanges,
    counts: answers.counts,
    series,
  };
}

/** State of charge at its lowest, with [s] when. */
function lowestOf(rows: ChargeReading): { soc: number; time: number } {
  const row = rows.best((r) => -rows.at(r, 'soc'));
  return { soc: Math.max(0, rows.at(row, 'soc')), time: rows.at(row, 'time') };
}

import type { Allowance } from '../numeric/allowance.ts';
import type { Plant } from '../plant/compile.ts';
import { EFFORT, HELD } from '../plant/network.ts';
import { MODE } from '../stages/modes.ts';
import { PACK_EVENT } from './events.ts';
import { grades } from './grades.ts';
import { groupsAtEnd, heldAbove } from './groups.ts';
import { countFound, HoldKeeper } from './hold.ts';
import { Guard } from './guard.ts';
import { LedgerSum, type Ledger } from './ledger.ts';
import { LoadKeeper } from './loadKeeper.ts';
import { March, USUAL_STEPS, type MarchOptions } from './march.ts';
import { nosePoint } from './nose.ts';
import type { Recorder } from './recorder.ts';
import type { Counts, DeadEnd, DeadReason, RunAnswers, UsefulEnd, Worked, EnvelopeRow } from './result.ts';
import { cellAmps, CellState, fullerAt } from './state.ts';
import { Trace } from './trace.ts';
import { givenWay, usefulEnd } from './usefulEnd.ts';

export interface RunOptions extends Partial<MarchOptions> {
  /** rows for a whole charge, evenly between the ends of steps; 0: those ends alone, about a hundred */
  rows?: number;
  /** every cycle of a programme one by one, however many: for references */
  everyCycle?: boolean;
  /** demands of rails worked out after which a search is given up, those behind parts counted fivefold */
  effort?: number;
  /** what several runs may cost together, this among them */
  allowance?: Allowance;
}

/** [s] Runs end here at the latest: ten years. */
export const TIME_LIMIT = 10 * 365.25 * 86400;

/** Relative distance below an instant without an operating point at which the stages are looked at. */
const BELOW = 1e-7;

/** The driver of a steady run: it decides what to do at every stop of the march, and holds no physics. */
export class SteadyRun {
  protected readonly state: CellState;
  protected readonly ledger: LedgerSum;
  protected readonly march: March;
  protected readonly holds: HoldKeeper;
  protected readonly loads: LoadKeeper;
  protected readonly guard: Guard;
  protected readonly steps: MarchOptions;
  protected readonly trace: Trace;
  protected readonly counts: Counts = {
    steps: 0,
    rejected: 0,
    located: 0,
    sweeps: 0,
    crept: 0,
    work: 0,
    pieces: 0,
    jumps: 0,
    none: 0,
    unconverged: 0,
    cycles: 0,
    skipped: 0,
    abandoned: 0,
  };
  /** what several runs share, and work done before this one */
  private readonly allowance: Allowance | undefined;
  private readonly begun: number;
  private useful:
    | {
        end: UsefulEnd;
        ledger: Ledger;
        soc: number;
        charge: number;
        fuller: number;
        worked: Worked | undefined;
      }
    | undefined;

  constructor(
    protected readonly plant: Plant,
    options: RunOptions,
    protected readonly recorder?: Recorder,
  ) {
    const { path } = plant;
    const { effort = EFFORT, allowance } = options;
    this.allowance = allowance;
    this.begun = path.network.work;
    path.network.allowed = this.begun + (allowance?.most(effort) ?? effort);
    this.state = new CellState(plant.pack, plant.conditions.startSoc);
    this.ledger = new LedgerSum(plant, this.state);
    this.trace = new Trace(plant, this.state);
    this.steps = { ...USUAL_STEPS, ...options };
    this.march = new March(plant, this.state, this.ledger, this.trace, recorder, this.counts, this.steps);
    this.holds = new HoldKeeper(plant, this.state, this.march.step.instant, this.counts);
    this.loads = new LoadKeeper(plant, this.state);
    this.trace.switched = this.loads;
    this.guard = new Guard(plant.pack);
  }

  toEnd(): RunAnswers {
    const dead = this.run();
    const { state, plant, counts } = this;
    const { path, pack, doc } = plant;
    const ledgerAtDead = this.ledger.close();
    const useful = this.useful ?? {
      end: { time: dead.time },
      ledger: ledgerAtDead,
      soc: state.soc,
      charge: state.charge,
      fuller: this.fuller,
      worked: this.worked(),
    };
    const { extended, ...trace } = this.trace.close(dead.time);
    counts.abandoned = this.holds.abandoned.size;
    counts.work = path.network.work;
    this.allowance?.take(counts.work - this.begun);
    counts.pieces = path.counts().pieces;
    const socAtUseful = Math.max(0, useful.soc);
    return {
      usefulEnd: useful.end,
      deadEnd: dead,
      ledger: useful.ledger,
      ledgerAtDead,
      leftBehind: heldAbove(pack, socAtUseful, useful, doc.pack.cell.endVolts).reduce((a, b) => a + b),
      ...groupsAtEnd(plant, state),
      socAtUseful,
      ...trace,
      ...(useful.worked ? { worked: useful.worked } : {}),
      extended: [...extended],
      ...grades(doc, extended),
      counts,
    };
  }

  /** By how much odd cells are fuller than those beside them now. */
  private get fuller(): number {
    return this.state.slow[fullerAt(this.plant.pack)] ?? 0;
  }

  /** What came of a programme so far; a steady run has none. */
  protected worked(): Worked | undefined {
    return undefined;
  }

  /** What the volts did in cycles of a programme; a steady run has none. */
  envelopeRows(): EnvelopeRow[] {
    return [];
  }

  protected run(): DeadEnd {
    return this.begin() ?? this.marchTo(TIME_LIMIT) ?? { time: this.state.time, reason: 'timeLimit' };
  }

  /** Take up the first instant. @returns the end where it does not begin */
  protected begin(): DeadEnd | undefined {
    const { march, plant } = this;
    this.holds.holdHopeless();
    if (plant.path.network.spent) return this.before('unfinished');
    const starts = this.settle(NaN);
    if (plant.path.network.spent) return this.before('unfinished');
    if (!starts) return this.before('collapse');
    this.enter();
    march.enter(true);
    return undefined;
  }

  /** March to an edge in time, past whatever happens on the way. @returns the end where it comes before */
  protected marchTo(edge: number): DeadEnd | undefined {
    const { state, march, plant, guard } = this;
    for (;;) {
      const ended = this.ended();
      if (ended) return { time: state.time, reason: ended };
      const stop = march.until(Math.min(edge, guard.due(), this.due()));
      if (stop === 'unfinished') return { time: state.time, reason: 'unfinished' };
      if (stop === 'still') {
        march.stand(Math.min(edge, guard.due(), this.due()));
        continue;
      }
      if (stop === 'edge') {
        if (!(state.time < edge * (1 - 1e-12))) return undefined;
        // A timer of the board is over: it opens. Or a load has started.
        if (this.due() > state.time * (1 + 1e-12)) continue;
      }
      if (stop === 'lost' && !this.pastLoss()) return this.collapse();
      if (!this.settle(state.volts)) return this.collapse();
      if (plant.path.network.spent) return { time: state.time, reason: 'unfinished' };
      this.enter();
      march.resume();
    }
  }

  /** [s] when something is switched next that runs by a clock of its own. */
  protected due(): number {
    return this.loads.due();
  }

  /** Solve the present instant until neither a stage nor a load switches. @returns false where the pack gives up */
  protected settle(near: number): boolean {
    const { holds, loads } = this;
    let found = holds.settle(near);
    // Each load changes at most a few times in one instant.
    for (let turn = 4 * this.plant.path.loads.length; loads.any && turn > 0; turn--) {
      if (found.status === 'none') {
        const gone = loads.giveWay();
        if (gone === undefined) return false;
        this.noteUseful(gone);
      } else {
        // How it stood before a load gives way is kept.
        if (!loads.react(() => this.enter())) return true;
      }
      found = holds.settle(NaN);
    }
    return found.status !== 'none';
  }

  /** Past an instant that no step reaches: hold what gave up there. @returns false where the pack itself did */
  private pastLoss(): boolean {
    const { state, march, plant } = this;
    const { path } = plant;
    march.creep();
    const found = march.step.instant.solve(state, NaN);
    countFound(this.counts, found);
    if (found.status === 'converged') return true;
    // What gave up is seen just below: at the jump itself either side may answer.
    path.readExactly(state.volts * (1 - BELOW));
    const failed = path.stages.flatMap((_, k) =>
      path.modeOf(k) === MODE.collapsed && path.network.held[k] === HELD.on ? [k] : [],
    );
    for (const k of failed) path.hold(k, HELD.collapsed);
    // Where the demand jumps and no stage has given up, one hunts between two ways of working: go on with the lesser.
    return failed.length > 0 || found.status !== 'none';
  }

  /** Take up the present instant after something changed: note what ends here, keep a row of it. */
  protected enter(): void {
    const { state, plant, ledger, trace } = this;
    const { path } = plant;
    if (path.piece?.bridge) this.counts.jumps++;
    trace.enter(state.time);
    trace.look(state.time, state.amps, state.volts, ledger.mode);
    trace.cycle(state.time, this.holds.cycling);
    const { soc, volts, amps } = state;
    this.recorder?.keep(state.time, { soc, volts, amps, ocv: this.march.step.instant.ocv });
    this.noteUseful();
  }

  /** @param gone a load that has given way, by its place */
  private noteUseful(gone?: number): void {
    const { state, plant, ledger, trace } = this;
    if (this.useful) return;
    const end = gone === undefined ? usefulEnd(plant, state.time) : givenWay(plant, gone, state.time);
    if (!end) return;
    this.useful = {
      end,
      ledger: ledger.close(),
      soc: state.soc,
      charge: state.charge,
      fuller: this.fuller,
      worked: this.worked(),
    };
    trace.end();
  }

  protected ended(): DeadReason | undefined {
    const { pack } = this.march.before;
    const opens = this.guard.look(pack, this.state.time);
    if (opens) return opens;
    if (pack & PACK_EVENT.empty) return 'empty';
    return this.state.amps > 0 ? undefined : 'nothingDraws';
  }

  protected collapse(): DeadEnd {
    const nose = nosePoint(this.plant, this.state);
    return { time: this.state.time, reason: 'collapse', ...(nose ? { nose } : {}) };
  }

  /** It ends before it begins: what is kept is the instant before the load, open volts and charge. */
  private before(reason: DeadReason): DeadEnd {
    const { state, plant, march } = this;
    const { instant } = march.step;
    const end: DeadEnd = reason === 'collapse' ? this.collapse() : { time: 0, reason };
    instant.prepare(state.soc, state.slow);
    plant.path.rest();
    this.trace.enter(0);
    const amps = cellAmps(plant.pack, 0);
    this.recorder?.keep(0, { soc: state.soc, volts: instant.open, amps, ocv: instant.ocv });
    return end;
  }
}

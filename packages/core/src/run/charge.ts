import type { Source } from '../model/sources/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { repeatsWithin } from '../model/cycle.ts';
import { FAST, type Plant } from '../plant/compile.ts';
import { compileCharging } from '../plant/compileCharging.ts';
import type { Conditions } from '../plant/conditions.ts';
import { Balancer } from './keepers/balancer.ts';
import { ChargeKeeper } from './keepers/chargeKeeper.ts';
import { PhaseLog } from './keepers/phaseLog.ts';
import { chargeAnswers, type Filled } from './reading/chargeAnswers.ts';
import type { ChargeEnd, ChargeResult } from './account/chargeResult.ts';
import { Fullness } from './keepers/full.ts';
import { attempts, Ground, type RunOptions } from './keepers/ground.ts';
import type { Keeper } from './keepers/keeper.ts';
import type { Ledger } from './account/account.ts';
import { Programme } from './timeline/programme.ts';
import { Recorder } from './account/recorder.ts';
import type { DeadEnd, DeadReason } from './account/result.ts';
import { Run } from './run.ts';
import { scheduleOf, type Schedule } from './timeline/schedule.ts';
import { CycleSkip } from './skip/skip.ts';
import { Thermistor } from './keepers/thermistor.ts';

/** [s] A charge ends here at the latest: thirty days. */
export const CHARGE_LIMIT = 30 * 86400;
/** Rows for a whole charge. */
const ROWS = 120;
/** Cycles of a programme followed one by one; where that is not enough, the loads are held in one mode. */
const MOST_CYCLES = 3000;
/** Share of the charge by which a cycle must move it, for it to be getting anywhere; less of those shorter than so many [s]. */
const STILL = 1e-7;
const USUAL = 60;

/** A charge: the run of a charger, its thermistor, a board that bleeds, and the programme of the loads. */
export class ChargeRun {
  private readonly ground: Ground;
  private readonly charger: ChargeKeeper;
  private readonly thermistor: Thermistor;
  private readonly full: Fullness;
  private readonly phases: PhaseLog;
  private readonly balancer: Balancer | undefined;
  private readonly run: Run;

  constructor(
    private readonly plant: Plant,
    options: RunOptions,
    recorder: Recorder,
    schedule: Schedule | undefined,
  ) {
    const ground = new Ground(plant, options, recorder);
    const { state, ledger, march, holds, loads, board } = ground;
    this.ground = ground;
    this.thermistor = new Thermistor(plant);
    const charger = (this.charger = new ChargeKeeper(plant, state, false, this.thermistor));
    this.full = new Fullness(march.before);
    this.phases = new PhaseLog(plant, state, ledger, charger);
    if (plant.pack.groups) this.balancer = new Balancer(plant, state, ledger);
    const { thermistor, full, phases, balancer } = this;
    const keepers: Keeper[] = [holds, loads, thermistor, charger, full, phases, board];
    if (balancer) keepers.push(balancer);
    const still = (took: number, seconds: number): DeadReason | undefined =>
      Math.abs(took) < STILL * Math.min(1, seconds / USUAL) && !charger.waits(state.time - seconds)
        ? 'timeLimit'
        : undefined;
    const until = () => CHARGE_LIMIT;
    const tracks = schedule
      ? [
          new Programme(ground, schedule, {
            skip: new CycleSkip(ground, schedule, keepers),
            most: MOST_CYCLES,
            still,
            until,
          }),
        ]
      : [];
    this.run = new Run(ground, { keepers, tracks, horizon: CHARGE_LIMIT });
  }

  /** Charge. @returns everything but the rows */
  toFull(): Filled {
    const answers = this.run.toEnd();
    const { balancer } = this;
    const why = this.why(answers.deadEnd);
    return { why, phases: this.phases.phases, answers, ...(balancer ? { balanced: balancer.came } : {}) };
  }

  /** Take up the first instant, for a driver of several. @returns why it has ended, where it does not begin */
  start(): ChargeEnd | undefined {
    const dead = this.run.begin();
    return dead && this.why(dead);
  }

  /** Go on to a time [s]. @returns why it has ended, where it has before */
  advance(edge: number): ChargeEnd | undefined {
    const dead = this.run.marchTo(edge);
    return dead && this.why(dead);
  }

  /** What others take from the source has changed. [A] */
  share(others: number): void {
    this.plant.charger!.share(others);
    this.plant.path.fedAnew();
    this.run.again();
  }

  /** [s] where it stands. */
  get time(): number {
    return this.ground.state.time;
  }

  /** The account so far. */
  get account(): Ledger {
    return this.ground.ledger.close();
  }

  private why({ reason }: DeadEnd): ChargeEnd {
    if (reason === 'charged') return this.thermistor.why ?? this.charger.why ?? this.full.why!;
    if (reason === 'timeLimit') return 'never';
    return reason === 'unfinished' ? 'unfinished' : 'drained';
  }
}

/**
 * Charge a thread's pack as it says.
 * @param doc a valid document that says something of charging; a programmer's error otherwise
 * @param source another source in the place of its own
 * @returns a whole charge; never NaN, always ends: after thirty days at the latest
 */
export function charge(
  doc: ThreadDocument,
  source?: Source,
  conditions: Partial<Conditions> = {},
  options: RunOptions = {},
): ChargeResult {
  const asked = { ...conditions, ...(source ? { charge: { source } } : {}) };
  const plant = compileCharging(doc, asked);
  const fast = plant.conditions.mode === undefined && repeatsWithin(plant.doc, FAST);
  const { first, then } = attempts(options);
  const found = chargePlant(plant, fast ? first : options);
  if (!fast || found.end.reason !== 'unfinished') return found;
  // No skip carries it, and it is too long one by one: its longest mode all the time is near it, or no peaks where it has no modes.
  const heldIn = longestMode(plant.doc);
  const mode = heldIn === undefined ? {} : { mode: heldIn };
  const held = chargePlant(compileCharging(doc, { ...asked, ...mode }), then, false);
  return { ...held, ...(heldIn === undefined ? {} : { heldIn }) };
}

function chargePlant(plant: Plant, options: RunOptions, follows = true): ChargeResult {
  const schedule = follows && plant.conditions.mode === undefined ? scheduleOf(plant.doc) : undefined;
  const recorder = new Recorder(plant, options.rows ?? ROWS);
  const run = new ChargeRun(plant, options, recorder, schedule);
  return chargeAnswers(plant, run.toFull(), recorder.finish());
}

/** Id of the mode that the loads are in for the longest. */
function longestMode(doc: ThreadDocument): string | undefined {
  const { modes = [] } = doc;
  const stretches = scheduleOf(doc)?.stretches ?? [];
  const seconds = modes.map((_, k) => stretches.reduce((s, of) => s + (of.mode === k ? of.seconds : 0), 0));
  return modes[seconds.indexOf(Math.max(...seconds))]?.id;
}

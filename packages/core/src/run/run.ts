import { countFound } from './keepers/hold.ts';
import { restInTheDark } from './dark.ts';
import { hasCome } from './step/time.ts';
import { grades } from './reading/grades.ts';
import type { Ground } from './keepers/ground.ts';
import { groupsAtEnd, heldAbove } from './reading/groups.ts';
import type { Found } from './step/instant.ts';
import type { Keeper } from './keepers/keeper.ts';
import type { Pace } from './look/pace.ts';
import type { Track } from './timeline/track.ts';
import type { Ledger } from './account/account.ts';
import type { Mains } from './timeline/mains.ts';
import { nosePoint } from './march/nose.ts';
import type { DeadEnd, DeadReason, RunAnswers, UsefulEnd, Worked } from './account/result.ts';
import { cellAmps, fullerAt } from './step/state.ts';
import { givenWay, usefulEnd } from './account/usefulEnd.ts';

/** What a run is for: its keepers and what is given from outside. */
export interface Purpose {
  /** what switches by itself, in the order it is asked */
  keepers: readonly Keeper[];
  /** what is given from outside */
  tracks: readonly Track[];
  /** one of these, where there is mains: a pack that gives nothing then waits for it rather than end the run */
  mains?: Mains;
  /** what carries the cells from change to change; the march of its ground where nothing is said */
  pace?: Pace;
  /** [s] where the run ends at the latest */
  horizon: number;
  /** what came of a programme so far */
  worked?: () => Worked;
}

/** How a run stood when it stopped being of use. */
interface Standing {
  end: UsefulEnd;
  ledger: Ledger;
  /** state of charge, [C] of one cell, and by how much odd cells are fuller */
  soc: number;
  charge: number;
  fuller: number;
  worked: Worked | undefined;
}

/**
 * A plant, its keepers and a timeline: marches from one change to the next, lets the keepers settle each instant, and notes where
 * it ends. It holds no physics, and knows of none of its keepers what it is for.
 */
export class Run {
  // Keepers by what they do: asked at every stop, most do little of it.
  private readonly looking: readonly Keeper[];
  private readonly acting: readonly Keeper[];
  private readonly noting: readonly Keeper[];
  private readonly ending: readonly Keeper[];
  /** those that do something by time, and those of them after which the instant is solved anew */
  private readonly timed: readonly Keeper[];
  private readonly changing: readonly Keeper[];
  private readonly pace: Pace;
  private useful: Standing | undefined;

  constructor(
    private readonly ground: Ground,
    private readonly purpose: Purpose,
  ) {
    const { keepers, pace = ground.march } = purpose;
    this.pace = pace;
    for (const { watches = [] } of keepers) ground.march.before.watch(watches);
    this.looking = keepers.filter((k) => k.look);
    this.acting = keepers.filter((k) => k.react && k.most !== 0);
    this.noting = keepers.filter((k) => k.enter);
    this.ending = keepers.filter((k) => k.ended);
    this.timed = keepers.filter((k) => k.due);
    this.changing = this.timed.filter((k) => k.react || k.look);
  }

  /** From the first instant to its end. */
  toEnd(): RunAnswers {
    const dead = this.run();
    this.close();
    const { state, plant, ledger, counts, trace: traced } = this.ground;
    const ledgerAtDead = ledger.close();
    const useful = this.useful ?? this.standing({ time: dead.time }, ledgerAtDead);
    const { extended, ...trace } = traced.close(dead.time);
    this.ground.settleUp();
    const socAtUseful = Math.max(0, useful.soc);
    const { endVolts } = plant.doc.pack.cell;
    return {
      usefulEnd: useful.end,
      deadEnd: dead,
      ledger: useful.ledger,
      ledgerAtDead,
      leftBehind: heldAbove(plant.pack, socAtUseful, useful, endVolts).reduce((a, b) => a + b),
      ...groupsAtEnd(plant, state),
      socAtUseful,
      ...trace,
      ...(useful.worked ? { worked: useful.worked } : {}),
      extended: [...extended],
      ...grades(plant.doc, extended),
      counts,
    };
  }

  /** From one change from outside to the next. */
  private run(): DeadEnd {
    const { state } = this.ground;
    const { tracks, mains, horizon } = this.purpose;
    for (const track of tracks) track.begin();
    let dead = this.begin();
    for (;;) {
      const next = Math.min(horizon, this.next());
      dead ??= this.marchTo(next);
      // Where the cells are over-charged, or it costs too much, there is nothing to wait for.
      if (dead && (!mains || dead.reason === 'unfinished' || dead.reason === 'charged')) return dead;
      if (dead) this.waitFor(Math.min(horizon, mains!.on ? next : mains!.next));
      if (hasCome(state.time, horizon)) return { time: state.time, reason: 'timeLimit' };
      const turned = this.turn(dead !== undefined);
      if (turned && typeof turned === 'object') return { time: state.time, reason: turned.ends };
      dead = turned ? this.takeUp(turned === 'source' || dead !== undefined) : undefined;
    }
  }

  /** [s] when something changes next from outside. */
  private next(): number {
    let next = Infinity;
    for (const track of this.purpose.tracks) next = Math.min(next, track.next);
    return next;
  }

  /** What changes from outside now does. @param rested whether nobody looked for a while */
  private turn(rested: boolean): { ends: DeadReason } | 'loads' | 'source' | undefined {
    let turned: 'loads' | 'source' | undefined = rested ? 'source' : undefined;
    for (const track of this.purpose.tracks) {
      if (!hasCome(this.ground.state.time, track.next)) continue;
      const found = track.turn();
      if (typeof found === 'object') return found;
      if (found === 'nothing') continue;
      turned = turned === 'source' ? turned : found;
    }
    return turned;
  }

  /** Go on with what has changed from outside. @param anew whether the instant before says nothing of this one */
  private takeUp(anew: boolean): DeadEnd | undefined {
    const { state } = this.ground;
    if (!this.settle(anew ? NaN : state.volts)) return this.collapse();
    this.enter();
    this.pace.enter(true);
    return undefined;
  }

  /** Take up the first instant. @returns the end where it does not begin */
  begin(): DeadEnd | undefined {
    const { ground, purpose } = this;
    for (const k of purpose.keepers) k.prepare?.();
    if (ground.spent) return this.before('unfinished');
    const starts = this.settle(NaN);
    if (ground.spent) return this.before('unfinished');
    if (!starts) return this.before('collapse');
    this.enter();
    this.pace.enter(true);
    return undefined;
  }

  /** March to an edge in time, past whatever happens on the way. @returns the end where it comes before */
  marchTo(edge: number): DeadEnd | undefined {
    const { ground, pace } = this;
    const { state } = ground;
    for (;;) {
      const ended = this.ended();
      if (ended) return { time: state.time, reason: ended };
      const next = Math.min(edge, dueOf(this.timed));
      const stop = pace.until(next);
      if (stop === 'unfinished') return { time: state.time, reason: 'unfinished' };
      if (stop === 'still') {
        pace.stand(next);
        continue;
      }
      if (stop === 'edge') {
        if (hasCome(state.time, edge)) return undefined;
        // Only who ends runs is due: it is asked above.
        if (!hasCome(state.time, dueOf(this.changing))) continue;
      }
      if (stop === 'lost' && !this.pastLoss()) return this.collapse();
      if (!this.settle(state.volts)) return this.collapse();
      if (ground.spent) return { time: state.time, reason: 'unfinished' };
      this.enter();
      pace.resume();
    }
  }

  /** What is given has changed a little: take up the present instant anew. */
  again(): void {
    this.settle(NaN);
    this.enter();
    this.pace.enter(false);
  }

  /** Solve the present instant until nothing switches. @returns false where the pack gives up */
  private settle(near: number): boolean {
    let at = near;
    for (const k of this.looking) if (k.look!()) at = NaN;
    return this.settled(this.acting.length - 1, at).status !== 'none';
  }

  /** The same of the keepers up to one: each is asked once those before it have come to rest. */
  private settled(upTo: number, near: number): Found {
    if (upTo < 0) return this.solve(near);
    const keeper = this.acting[upTo]!;
    let found = this.settled(upTo - 1, near);
    for (let turn = keeper.most ?? 1; turn > 0; turn--) {
      const switched = found.status === 'none' ? this.letGo(keeper) : keeper.react!(this.enterBefore);
      if (!switched) break;
      found = this.settled(upTo - 1, NaN);
    }
    return found;
  }

  private readonly enterBefore = () => this.enter();

  private solve(near: number): Found {
    const { march, state, counts, plant } = this.ground;
    const found = march.step.instant.solve(state, near);
    countFound(counts, found);
    plant.path.read(state.volts);
    return found;
  }

  /** The pack cannot meet the demand: a keeper may let something go. */
  private letGo(keeper: Keeper): boolean {
    const gone = keeper.giveWay?.();
    if (gone !== undefined) this.noteUseful(gone);
    return gone !== undefined;
  }

  /** Past an instant that no step reaches: what gave up there is held. @returns false where the pack itself did */
  private pastLoss(): boolean {
    const { march, state, counts } = this.ground;
    this.pace.creep();
    const found = march.step.instant.solve(state, NaN);
    countFound(counts, found);
    if (found.status === 'converged') return true;
    const held = this.purpose.keepers.some((k) => k.pastLoss?.());
    // Where the demand jumps and nothing has given up, one hunts between two ways of working: go on with the lesser.
    return held || found.status !== 'none';
  }

  /** Take up the present instant after something changed: note what ends here, keep a row of it. */
  private enter(): void {
    const { state, plant, ledger, trace, counts, holds, recorder, march } = this.ground;
    if (plant.path.piece?.bridge) counts.jumps++;
    trace.enter(state.time);
    trace.look(state.time, state.amps, state.volts, ledger.mode);
    trace.cycle(state.time, holds.cycling);
    const { soc, volts, amps } = state;
    recorder?.keep(state.time, { soc, volts, amps, ocv: march.step.instant.ocv });
    this.noteUseful();
    for (const k of this.noting) k.enter!();
  }

  /** @param gone a load that has given way, by its place */
  private noteUseful(gone?: number): void {
    if (this.useful) return;
    const { state, plant, ledger, trace } = this.ground;
    const end = gone === undefined ? usefulEnd(plant, state.time) : givenWay(plant, gone, state.time);
    if (!end) return;
    this.useful = this.standing(end, ledger.close());
    trace.end();
  }

  private standing(end: UsefulEnd, ledger: Ledger): Standing {
    const { state, plant } = this.ground;
    const { soc, charge, slow } = state;
    // By how much odd cells are fuller than those beside them.
    const fuller = slow[fullerAt(plant.pack)] ?? 0;
    return { end, ledger, soc, charge, fuller, worked: this.purpose.worked?.() };
  }

  private ended(): DeadReason | undefined {
    for (const k of this.ending) {
      const why = k.ended!();
      if (why) return why;
    }
    return undefined;
  }

  private close(): void {
    for (const track of this.purpose.tracks) track.close?.();
    for (const k of this.purpose.keepers) k.close?.();
    this.pace.close?.();
  }

  private collapse(): DeadEnd {
    const { state, plant } = this.ground;
    const nose = nosePoint(plant, state);
    return { time: state.time, reason: 'collapse', ...(nose ? { nose } : {}) };
  }

  /** It ends before it begins: what is kept is the instant before the load, open volts and charge. */
  private before(reason: DeadReason): DeadEnd {
    const { state, plant, march, trace, recorder } = this.ground;
    const { instant } = march.step;
    const end: DeadEnd = reason === 'collapse' ? this.collapse() : { time: 0, reason };
    instant.prepare(state.soc, state.slow);
    plant.path.rest();
    trace.enter(0);
    const amps = cellAmps(plant.pack, 0);
    recorder?.keep(0, { soc: state.soc, volts: instant.open, amps, ocv: instant.ocv });
    return end;
  }

  /** Nothing is given any more: the pack rests until something changes from outside. @param to [s] */
  private waitFor(to: number): void {
    const { state, plant, ledger, recorder } = this.ground;
    const { keepers } = this.purpose;
    const from = state.time;
    state.soc = Math.max(0, state.soc);
    const dark = () => {
      plant.path.rest();
      recorder?.keep(state.time, { soc: state.soc, volts: 0, amps: 0, ocv: plant.pack.cell.ocv(state.soc) });
    };
    dark();
    for (const k of keepers) k.dark?.();
    if (to > from) restInTheDark(plant, state, ledger, to - from);
    state.time = to;
    dark();
  }
}

/** [s] when the first of keepers does something if nothing changes. */
function dueOf(keepers: readonly Keeper[]): number {
  let first = Infinity;
  for (const k of keepers) first = Math.min(first, k.due!());
  return first;
}

import { drawsOf, lawsOf, type Draws } from '../../loads/draws.ts';
import { statedLaw } from '../../loads/current.ts';
import type { Shedding } from '../../model/peak.ts';
import type { Plant } from '../../plant/compile.ts';
import { RANGE } from '../../plant/railState.ts';
import type { Keeper } from './keeper.ts';
import type { PackWatch } from '../march/watch.ts';
import type { CellState } from '../step/state.ts';
import { hasCome } from '../step/time.ts';

const ON = 0;
/** draws nothing until it is next switched on */
const STOPPED = 1;
/** draws nothing until its volts are back */
const DOWN = 2;
/** draws what its start takes */
const STARTING = 3;

function isBelow({ soc, volts }: Shedding, at: { soc: number; volts: number }): boolean {
  return (soc !== undefined && at.soc < soc) || (volts !== undefined && at.volts < volts);
}

const watchOf = (shed: Shedding): PackWatch => ({ counted: true, of: () => (p) => isBelow(shed, p) });

/**
 * What loads do below their range: stop, start anew, or be switched off for the others. Like holds of stages a state of
 * the simulation: within an operating point nothing switches. A load that fell out of its range twice in one stretch
 * stays off until the next.
 */
export class LoadKeeper implements Keeper {
  readonly watches: readonly PackWatch[];
  /** each changes at most a few times in one instant */
  readonly most: number;
  /** times each load has started anew; empty where none ever does */
  readonly resets: Float64Array;
  /** how often what happens counts: see the ledger's */
  weight = 1;
  private readonly states: Uint8Array;
  /** [s] when a start is over */
  private readonly until: Float64Array;
  private readonly tried: Uint8Array;
  /** those that do something, by their places; 1 for those that give way below their range */
  private readonly acting: readonly number[];
  private readonly gives: Uint8Array;
  private draws: Draws;
  private readonly made = new Map<string, Draws>();

  /** @param shed 1 for each load switched off for good; shared by those that keep the loads of one run */
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    readonly shed: Uint8Array = new Uint8Array(plant.path.loads.length),
  ) {
    const { loads, network } = plant.path;
    this.draws = network.draws;
    this.watches = loads.flatMap(({ shed }) => (shed ? [watchOf(shed)] : []));
    this.gives = Uint8Array.from(loads, (l) => (l.below === 'stops' || l.below === 'resets' ? 1 : 0));
    this.acting = loads.flatMap((l, k) => (this.gives[k] || l.shed ? [k] : []));
    const n = this.acting.length > 0 ? loads.length : 0;
    this.most = 4 * n;
    this.states = new Uint8Array(n);
    this.until = new Float64Array(n).fill(Infinity);
    this.tried = new Uint8Array(n);
    this.resets = new Float64Array(n);
  }

  /** Whether any load ever does something. */
  get any(): boolean {
    return this.acting.length > 0;
  }

  /** Whether a load has stopped that is wanted: where the programme switches it on again, it comes back. */
  get down(): boolean {
    return this.acting.some((l) => this.states[l] === STOPPED && !this.shed[l] && !this.isOff(l));
  }

  /** Whether a load is on its way back: what follows is not as if nothing had been. */
  get starts(): boolean {
    return this.acting.some((l) => this.states[l] === STARTING);
  }

  /** A stretch begins. @param anew whether the loads are switched in it: what had stopped is then on again */
  begin(draws: Draws, anew: boolean): void {
    this.draws = draws;
    if (anew) {
      for (const l of this.acting) {
        this.tried[l] = 0;
        if (this.states[l] !== STARTING) this.states[l] = ON;
      }
    }
    this.apply();
  }

  /** Power that comes back switches on what has stopped. */
  mains(): void {
    this.begin(this.draws, true);
  }

  /** Whether a load is switched off by the programme, not by what has become of it. */
  isOff(load: number): boolean {
    return this.draws.factors[load] === 0;
  }

  /** Everything as it begins. */
  reset(): void {
    this.states.fill(ON);
    this.tried.fill(0);
    this.until.fill(Infinity);
  }

  /** [s] when the next start is over; Infinity where none is under way. */
  due(): number {
    let first = Infinity;
    for (const l of this.acting) if (this.states[l] === STARTING) first = Math.min(first, this.until[l]!);
    return first;
  }

  /**
   * Look at the present instant, which the path is read at.
   * @param before called before a load is switched
   * @returns whether one has switched: solve it again
   */
  react(before?: () => void): boolean {
    const next = this.next();
    if (!next) return false;
    before?.();
    next();
    this.apply();
    return true;
  }

  /** The first load that is to switch, and how. */
  private next(): (() => void) | undefined {
    const { path } = this.plant;
    const { time } = this.state;
    const set = (l: number, state: number) => () => void (this.states[l] = state);
    for (const l of this.acting) {
      if (this.shed[l]) continue;
      const load = path.loads[l]!;
      const low = path.rangeOf(l) === RANGE.low && this.draws.factors[l]! > 0;
      const state = this.states[l]!;
      if (load.shed && isBelow(load.shed, this.state)) return () => void (this.shed[l] = 1);
      if (state === STARTING && hasCome(time, this.until[l]!)) return set(l, ON);
      if (low && state === ON && this.gives[l]) return () => this.fall(l);
      if (low && state === STARTING) return set(l, STOPPED);
      if (state === DOWN && path.rangeOf(l) === RANGE.in) return () => this.start(l);
    }
    return undefined;
  }

  /** The pack cannot carry what is on: the load that draws most of those that give way does. @returns its place */
  giveWay(): number | undefined {
    const { network } = this.plant.path;
    const most = this.acting
      .filter((l) => this.gives[l] === 1 && !network.isOff(l))
      .sort((a, b) => this.watts(b) - this.watts(a))[0];
    if (most === undefined) return undefined;
    if (this.states[most] === STARTING) this.states[most] = STOPPED;
    else this.fall(most);
    this.apply();
    return most;
  }

  private watts(l: number): number {
    const { network } = this.plant.path;
    return network.loadVolts[l]! * network.loadAmps[l]!;
  }

  private fall(l: number): void {
    const again = this.plant.path.loads[l]!.below === 'resets' && !this.tried[l];
    this.tried[l] = 1;
    this.states[l] = again ? DOWN : STOPPED;
  }

  private start(l: number): void {
    this.resets[l]! += this.weight;
    this.until[l] = this.state.time + this.plant.path.loads[l]!.restart!.seconds;
    this.states[l] = STARTING;
  }

  private apply(): void {
    const { acting, states, shed, draws, made, plant } = this;
    if (!acting.some((l) => states[l] !== ON || shed[l])) return plant.path.setDraws(draws);
    const name = `${draws.name} ${acting.map((l) => (shed[l] ? STOPPED : states[l])).join('')}`;
    let now = made.get(name);
    if (!now) {
      const laws = lawsOf(draws);
      for (const l of acting) {
        const load = plant.path.loads[l]!;
        if (laws[l]!.factor === 0) continue;
        if (!shed[l] && states[l] === STARTING) laws[l] = statedLaw(load, load.draw, load.restart!.value);
        else if (shed[l] || states[l] !== ON) laws[l] = { ...laws[l]!, factor: 0 };
      }
      made.set(name, (now = drawsOf(laws)));
    }
    plant.path.setDraws(now);
  }
}

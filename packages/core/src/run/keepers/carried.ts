import { loadAmps } from '../../loads/current.ts';
import type { Draws } from '../../loads/draws.ts';
import { isRegulated } from '../../model/kinds/registry.ts';
import { carriesIn } from '../../plant/chargerLayout.ts';
import { CARRIES } from '../../plant/joint.ts';
import { RANGE } from '../../plant/railState.ts';
import type { Ground } from './ground.ts';
import type { Keeper } from './keeper.ts';
import type { Gone, Stretched, Who } from '../account/outageResult.ts';

const WHO: Readonly<Record<number, Who>> = {
  [CARRIES.battery]: 'battery',
  [CARRIES.both]: 'both',
  [CARRIES.adapter]: 'adapter',
  [CARRIES.nobody]: 'nobody',
};

/** [s] Stretches without power nearer to each other than this are one. */
const NEAR = 1e-6;

/** Notes who carries the loads from when on, when nobody does, and what they did not get meanwhile. */
export class Carried implements Keeper {
  readonly who: Stretched<Who>[] = [];
  readonly gaps: Gone[] = [];
  /** [J] that the loads did not get */
  unserved = 0;
  /** [s] since when it is dark */
  private since: number | undefined;

  /** @param source whether there is any @param wanted seconds at each of the draws that the loads would have had between two times [s] */
  constructor(
    private readonly ground: Ground,
    private readonly source: { on: boolean },
    /** [s] of a programme that repeats fast; 0 where there is none */
    private readonly period: number,
    private readonly wanted: (from: number, to: number) => Iterable<{ seconds: number; draws: Draws }>,
  ) {}

  enter(): void {
    const { path } = this.ground.plant;
    const { joint } = path.network;
    // A load that has given way is dropped, whatever its rail then stands at.
    if (this.isDown()) return this.dark();
    this.lightUp();
    if (!joint) return this.note(this.source.on ? 'adapter' : 'battery');
    this.note(WHO[carriesIn(path.signature, path.stages.length, path.loads.length)]!);
  }

  dark(): void {
    this.note('nobody');
    this.since ??= this.ground.state.time;
  }

  quietUntil(): number {
    return this.since === undefined ? Infinity : 0;
  }

  wouldSwitch(_: unknown, loads: { isOff(load: number): boolean }): boolean {
    return this.isDown(loads);
  }

  /** Cycles were skipped: what changed within the last one taken changed within all of them. */
  skipped(seconds: number): void {
    const last = this.who.at(-1);
    const { time } = this.ground.state;
    const from = time - seconds;
    if (!last || !(last.from > from - this.period) || this.who.length < 2) return;
    last.to = from;
    this.who.push({ what: 'both', from, to: time });
  }

  close(): void {
    this.lightUp();
    this.noteEnd();
  }

  /** Whether an essential load gets too little, or has given way though it is wanted. @param loads which the programme has off */
  private isDown(loads: { isOff(load: number): boolean } = this.ground.loads): boolean {
    const { path } = this.ground.plant;
    return path.loads.some(
      (load, l) =>
        load.essential && !loads.isOff(l) && (path.network.isOff(l) || path.rangeOf(l) === RANGE.low),
    );
  }

  private lightUp(): void {
    const { since } = this;
    const { time } = this.ground.state;
    this.since = undefined;
    if (since === undefined || !(time > since)) return;
    for (const { seconds, draws } of this.wanted(since, time)) this.unserved += seconds * this.watts(draws);
    const last = this.gaps.at(-1);
    if (last && since - last.to < NEAR) last.to = time;
    else this.gaps.push({ from: since, to: time });
  }

  /** [W] the loads would take at the volts of their rails. */
  private watts(draws: Draws): number {
    const { path, pack } = this.ground.plant;
    return path.loads.reduce((sum, load, l) => {
      const stage = path.stages.find((s) => s.id === load.from);
      const volts =
        stage && isRegulated(stage)
          ? stage.outputVolts
          : Math.min(load.range.max, pack.series * pack.cell.ocv(0.5));
      const amps = loadAmps(draws.laws[l]!, draws.values[l]!, draws.slopes[l]!, volts);
      return sum + draws.factors[l]! * amps * volts;
    }, 0);
  }

  private note(who: Who): void {
    const last = this.who.at(-1);
    if (last?.what === who) return;
    this.noteEnd();
    const { time } = this.ground.state;
    this.who.push({ what: who, from: time, to: time });
  }

  private noteEnd(): void {
    const last = this.who.at(-1);
    if (last) last.to = this.ground.state.time;
  }
}

import type { Draws } from '../../loads/draws.ts';
import type { Plant } from '../../plant/compile.ts';
import type { Counts } from '../account/result.ts';
import { givenWay, usefulEnd } from '../account/usefulEnd.ts';
import { GUARDS } from '../keepers/guard.ts';
import { HoldKeeper } from '../keepers/hold.ts';
import { LoadKeeper } from '../keepers/loadKeeper.ts';
import { Events } from '../march/events.ts';
import { Instant } from '../step/instant.ts';
import { CellState } from '../step/state.ts';
import { StepWarmth } from '../step/stepWarmth.ts';

/** Asks a plant about single instants: one set of keepers, put back after each question. */
export class Asker {
  readonly state: CellState;
  readonly instant: Instant;
  readonly events: Events;
  readonly holds: HoldKeeper;
  readonly loads: LoadKeeper;
  readonly heat: StepWarmth | undefined;
  private readonly held: Uint8Array | readonly number[];

  /** @param first what is drawn at the beginning: stages that never hold it are held from there on, as in a run */
  constructor(
    readonly plant: Plant,
    first: Draws,
  ) {
    const { pack, conditions } = plant;
    this.state = new CellState(pack, conditions.startSoc);
    this.instant = new Instant(plant);
    this.holds = new HoldKeeper(plant, this.state, this.instant, {
      jumps: 0,
      none: 0,
      unconverged: 0,
    } as Counts);
    this.loads = new LoadKeeper(plant, this.state);
    this.events = new Events(plant, [...Object.values(GUARDS), ...this.loads.watches]);
    this.heat = pack.warmth && new StepWarmth(plant, pack.warmth);
    this.loads.begin(first, true);
    this.holds.prepare();
    this.held = [...plant.path.network.held];
  }

  /** Let the keepers switch until nothing does. @returns whether the run is of no use then, or goes on with less */
  settle(lost: boolean): 'ends' | 'less' | 'same' {
    const { plant, holds, loads, instant, state } = this;
    let gone = lost;
    let less = false;
    for (let turn = holds.most * (loads.most + 1); turn > 0; turn--) {
      if (gone) {
        const which = loads.giveWay();
        if (which === undefined || givenWay(plant, which, 0)) return 'ends';
      } else {
        plant.path.read(state.volts);
        // Stages come to rest before loads are asked; what is out of its range then counts.
        if (!holds.react()) {
          if (usefulEnd(plant, 0)) return 'ends';
          if (!loads.react()) break;
        }
      }
      less = true;
      gone = instant.solve(state, NaN).status === 'none';
    }
    return gone ? 'ends' : less ? 'less' : 'same';
  }

  /** As it was before anything switched. */
  putBack(): void {
    const { plant, holds, loads } = this;
    this.held.forEach((why, k) => plant.path.hold(k, why));
    holds.mains();
    loads.shed.fill(0);
    loads.reset();
  }
}

import type { Plant } from '../../plant/compile.ts';
import { Groups } from '../../plant/groups.ts';
import { windowOf } from '../../model/group.ts';
import type { Keeper } from './keeper.ts';
import type { Balanced } from '../account/chargeResult.ts';
import type { LedgerSum } from '../account/ledger.ts';
import { cellVolts, type CellState } from '../step/state.ts';

/** [s] between two looks at the groups at least, and at most while one bleeds; share of its charge it bleeds meanwhile. */
const LOOK = 30;
const LONGEST = 300;
const BLED = 5e-4;
/** What it costs to lay groups together anew, for each of them, in demands. */
const ANEW_COST = 20;
/** [V] below where it bleeds at which a group lets go again. Common practice, no source. */
const LETS_GO = 0.01;
/** [V] by which a cell rises at most between two looks; further below they are as much rarer, up to so many times. */
const RISES = 0.015;
const RAREST = 60;

/**
 * A board that bleeds the groups that stand high. Groups in series pass the same charge and so are one state; bleeding is what
 * sets them apart: a small part of a group's charge is taken from it at each look, and the groups are laid together anew.
 * The instant a group begins and ceases to bleed is known to a look.
 */
export class Balancer implements Keeper {
  private readonly amps: number;
  private readonly above: number;
  private readonly bleeds: boolean[];
  private readonly found: Balanced;
  /** [s] of the last look, and how many times the usual until the next */
  private looked = 0;
  private times = 1;
  /** how many times the usual it is while one bleeds */
  private readonly usual: number;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly ledger: LedgerSum,
  ) {
    const { protection } = plant.doc.pack;
    const { groups } = plant.pack.groups!;
    const amps = protection?.balanceCurrent ?? 0;
    this.amps = amps;
    this.above = protection?.balanceVolts ?? plant.doc.pack.cell.fullVolts;
    this.bleeds = groups.map(() => false);
    const least = Math.min(...groups.map((g) => g.capacity)) * plant.pack.rated * plant.pack.parallel;
    this.usual = Math.min(LONGEST, Math.max(LOOK, (BLED * least) / amps)) / LOOK;
    const missing = groups.map((g) => (1 - g.startSoc) * g.capacity * plant.pack.rated * plant.pack.parallel);
    const spread = Math.max(...missing) - Math.min(...missing);
    this.found = {
      bled: groups.map(() => 0),
      ...(amps > 0 ? { toEven: spread / amps } : {}),
      highest: [],
    };
  }

  /** [s] of the next look. */
  due(): number {
    if (!(this.amps > 0)) return Infinity;
    return this.looked + LOOK * this.times;
  }

  /** Look at the present instant. @returns whether the cells are other ones than before: solve it again */
  look(): boolean {
    const { state, above } = this;
    const seconds = state.time - this.looked;
    // In between nothing is taken: what has ended the charge would be gone again.
    if (Number.isNaN(state.volts) || (seconds > 0 && state.time < this.due() * (1 - 1e-12))) return false;
    this.looked = state.time;
    if (!(this.amps > 0)) return false;
    const moved = seconds > 0 && this.bleeds.some(Boolean);
    if (moved) this.bleed(seconds);
    const volts = this.volts();
    volts.forEach((v, k) => (this.bleeds[k] = v > above - (this.bleeds[k] ? LETS_GO : 0)));
    const below = (above - Math.max(...volts)) / RISES;
    this.times = this.bleeds.some(Boolean) ? this.usual : Math.min(RAREST, Math.max(1, Math.floor(below)));
    return moved;
  }

  quietUntil(): number {
    return this.bleeds.some(Boolean) ? 0 : Infinity;
  }

  wouldSwitch(): boolean {
    return this.amps > 0 && Math.max(...this.volts()) > this.above;
  }

  /** Note which stands highest. */
  enter(): void {
    if (Number.isNaN(this.state.volts)) return;
    const volts = this.volts();
    const most = Math.max(...volts);
    const last = this.found.highest.at(-1);
    // Of groups alike the first, unless the one that was still is.
    if (last && volts[last.group]! >= most - 1e-9) return;
    this.found.highest.push({ group: volts.indexOf(most), from: this.state.time });
  }

  /** What they have bled since the last look is taken from them. */
  close(): void {
    const seconds = this.state.time - this.looked;
    if (seconds > 0 && this.bleeds.some(Boolean)) this.bleed(seconds);
    this.looked = this.state.time;
  }

  /** What came of it. */
  get came(): Balanced {
    return this.found;
  }

  /** [V] of one cell of each group. */
  private volts(): number[] {
    const { pack } = this.plant;
    const { state } = this;
    return pack.groups!.at(state.soc, cellVolts(pack, state.volts, state.amps)).map((g) => g.volts);
  }

  /** Take what they have bled from their charge, and lay them together anew. */
  private bleed(seconds: number): void {
    const { plant, state, ledger, amps, found } = this;
    const { pack } = plant;
    const at = pack.groups!.at(state.soc, NaN);
    // What a group holds goes with its warmth.
    const holds = state.charge / pack.charge;
    const now = pack.groups!.groups.map((g, k) => {
      const { soc } = at[k]!;
      if (!this.bleeds[k]) return { ...g, startSoc: soc };
      found.bled[k]! += seconds;
      const charge = g.capacity * pack.rated * holds * pack.parallel;
      const startSoc = Math.max(0, soc - (amps * seconds) / charge);
      ledger.bleed(charge * pack.groups!.between(startSoc, soc));
      return { ...g, startSoc };
    });
    const { width, start } = windowOf(now);
    plant.path.network.spend(ANEW_COST * now.length);
    pack.groups = new Groups(pack.groups!.cell, now);
    pack.cell = pack.groups.table;
    // As warm as the cells are.
    state.charge *= (pack.rated * width) / pack.charge;
    pack.charge = pack.rated * width;
    state.soc = start;
  }
}

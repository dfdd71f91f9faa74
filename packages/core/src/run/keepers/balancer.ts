import type { Plant } from '../../plant/compile.ts';
import { Groups } from '../../plant/groups.ts';
import { windowOf } from '../../model/group.ts';
import type { Keeper } from './keeper.ts';
import type { Balanced } from '../account/chargeResult.ts';
import type { LedgerSum } from '../account/ledger.ts';
import type { Events } from '../march/events.ts';
import type { PackWatch } from '../march/watch.ts';
import { cellVolts, type CellState } from '../step/state.ts';
import { hasCome } from '../step/time.ts';

/** [s] between two looks at the groups that bleed at least, and at most; share of its charge one bleeds meanwhile. */
const LOOK = 30;
const LONGEST = 300;
const BLED = 5e-4;
/** What it costs to lay groups together anew, for each of them, in demands. */
const ANEW_COST = 20;
/** [V] below where it bleeds at which a group lets go again. Common practice, no source. */
const LETS_GO = 0.01;

/** The highest group stands where its board bleeds it. */
const BLEEDS: PackWatch = {
  highest: true,
  of: ({ pack: { bleeds } }) => (bleeds < Infinity ? (p) => p.highest > bleeds : undefined),
};

/**
 * A board that bleeds the groups that stand high. Groups in series pass the same charge and so are one state; bleeding is what
 * sets them apart: a small part of a group's charge is taken from it at each look, and the groups are laid together anew.
 * The instant one begins to bleed is an event of the march, the one it ceases is known to a look.
 */
export class Balancer implements Keeper {
  readonly watches = [BLEEDS];
  private readonly amps: number;
  private readonly above: number;
  private readonly bleeds: boolean[];
  private readonly found: Balanced;
  /** [s] of the last look, and between two while one bleeds */
  private looked = 0;
  private readonly usual: number;

  /** @param pace how many times the usual is between two looks: for weeks, in which a board bleeds on and on */
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly ledger: LedgerSum,
    pace = 1,
  ) {
    const { protection } = plant.doc.pack;
    const { groups } = plant.pack.groups!;
    const amps = protection?.balanceCurrent ?? 0;
    this.amps = amps;
    this.above = plant.pack.bleeds;
    this.bleeds = groups.map(() => false);
    const least = Math.min(...groups.map((g) => g.capacity)) * plant.pack.rated * plant.pack.parallel;
    this.usual = pace * Math.min(LONGEST, Math.max(LOOK, (BLED * least) / amps));
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
    return this.bleeding ? this.looked + this.usual : Infinity;
  }

  /** Look at the present instant. @returns whether the cells are other ones than before: solve it again */
  look(): boolean {
    const { state, above } = this;
    if (!(this.amps > 0) || Number.isNaN(state.volts)) return false;
    const { bleeding } = this;
    // In between nothing is taken: what has ended the charge would be gone again.
    if (bleeding && !hasCome(state.time, this.due())) return false;
    const moved = bleeding && this.take();
    this.looked = state.time;
    this.volts().forEach((v, k) => (this.bleeds[k] = v > above - (this.bleeds[k] ? LETS_GO : 0)));
    return moved;
  }

  private get bleeding(): boolean {
    return this.bleeds.some(Boolean);
  }

  quietUntil(): number {
    return this.bleeding ? 0 : Infinity;
  }

  wouldSwitch(now: Pick<Events, 'has'>): boolean {
    return now.has(BLEEDS);
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

  /** The board is open: nothing bleeds while the pack rests. */
  dark(): void {
    this.close();
    this.bleeds.fill(false);
  }

  /** What they have bled since the last look is taken from them. */
  close(): void {
    if (this.bleeding) this.take();
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

  /** What they have bled since the last look is taken from them. @returns whether anything was */
  private take(): boolean {
    const seconds = this.state.time - this.looked;
    if (!(seconds > 0)) return false;
    if (this.bleeds.every(Boolean)) this.bleedAlike(seconds);
    else this.bleed(seconds);
    return true;
  }

  /** The same charge less for each, as if it had passed through them: none is set apart. */
  private bleedAlike(seconds: number): void {
    const { plant, state, ledger, amps, found } = this;
    const { cell, series, parallel } = plant.pack;
    const charge = state.charge * parallel;
    const share = this.bleeds.filter(Boolean).length / this.bleeds.length;
    const soc = state.soc - (share * amps * seconds) / charge;
    ledger.bleed(series * charge * (cell.area(state.soc) - cell.area(soc)));
    state.soc = soc;
    this.bleeds.forEach((on, k) => (found.bled[k]! += on ? seconds : 0));
  }

  /** Take what they have bled from their charge, and lay them together anew. */
  private bleed(seconds: number): void {
    const { plant, state, ledger, amps, found } = this;
    const { pack } = plant;
    const own = pack.groups!.own(state.soc);
    // What a group holds goes with its warmth.
    const holds = state.charge / pack.charge;
    const now = pack.groups!.groups.map((g, k) => {
      const soc = own[k]!;
      if (!this.bleeds[k]) return { ...g, startSoc: soc };
      found.bled[k]! += seconds;
      const charge = g.capacity * pack.rated * holds * pack.parallel;
      const startSoc = Math.max(0, soc - (amps * seconds) / charge);
      ledger.bleed(charge * pack.groups!.between(startSoc, soc));
      return { ...g, startSoc };
    });
    const { width, start } = windowOf(now);
    plant.path.network.effort.spend(ANEW_COST * now.length);
    pack.groups = new Groups(pack.groups!.cell, now);
    pack.cell = pack.groups.table;
    // As warm as the cells are.
    state.charge *= (pack.rated * width) / pack.charge;
    pack.charge = pack.rated * width;
    state.soc = start;
  }
}

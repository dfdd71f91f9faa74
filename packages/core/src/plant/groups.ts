import { windowOf, type GroupAtStart } from '../model/group.ts';
import { CellTable, LOOK, type Blended } from './cellTable.ts';

/** How one group stands. */
export interface GroupState {
  /** state of its own charge */
  soc: number;
  /** [V] of one of its cells at its terminals */
  volts: number;
}

/** Groups in series that differ, as the solver sees them: one cell that is their mean, and each of them at an instant. */
export class Groups {
  /** the mean of all: its state of charge is the pack's */
  readonly table: CellTable;
  private readonly looked: Float64Array;
  private readonly mean: Float64Array;
  private readonly each: readonly Blended[];
  /** those that differ from each other, and of each group which of them it is */
  private readonly kinds: readonly Blended[];
  private readonly kindOf: readonly number[];

  /** @param cell curves of the cell as the record has them */
  constructor(
    readonly cell: CellTable,
    readonly groups: readonly GroupAtStart[],
  ) {
    const { width, start } = windowOf(groups);
    this.each = groups.map((g) => {
      const per = width / g.capacity;
      return { weight: 1 / groups.length, empty: g.startSoc - per * start, per, resistance: g.resistance };
    });
    const names = groups.map((g) => JSON.stringify(g));
    const first = [...new Set(names)].map((name) => names.indexOf(name));
    this.kindOf = names.map((name) => first.indexOf(names.indexOf(name)));
    this.kinds = first.map((at, kind) => {
      const weight = this.kindOf.filter((k) => k === kind).length / groups.length;
      return { ...this.each[at]!, weight };
    });
    this.table = CellTable.blend(cell, this.kinds);
    this.looked = cell.room();
    this.mean = this.table.room();
  }

  /**
   * [V] of the group that stands lowest. What a group loses of its volts is shared out by its resistance, branches
   * included: exact without branches, and with them once they have settled.
   * @param soc of the pack @param volts [V] mean of the cells at their terminals
   */
  lowest(soc: number, volts: number): number {
    this.table.look(soc, this.mean);
    const drop = this.mean[LOOK.ocv]! - volts;
    const ohms = this.cell.ohms(this.mean);
    let least = Infinity;
    for (const g of this.kinds) least = Math.min(least, this.voltsOf(g, soc, drop, ohms));
    return least;
  }

  /** [V] of the group that stands highest, likewise. */
  highest(soc: number, volts: number): number {
    return Math.max(...this.at(soc, volts).map((g) => g.volts));
  }

  /** State of each group's own charge where the pack's is so much, also past full. */
  own(soc: number): number[] {
    return this.each.map((g) => g.empty + g.per * soc);
  }

  /** State of charge of the pack at which the first of them is so much past full. [fraction of its own charge] */
  firstPast(own: number): number {
    return Math.min(...this.kinds.map((g) => (1 + own - g.empty) / g.per));
  }

  /** Every group at an instant. @param soc of the pack @param volts [V] mean of the cells at their terminals */
  at(soc: number, volts: number): GroupState[] {
    this.table.look(soc, this.mean);
    const drop = this.mean[LOOK.ocv]! - volts;
    const ohms = this.cell.ohms(this.mean);
    return this.each.map((g) => ({
      soc: Math.min(1, Math.max(0, g.empty + g.per * soc)),
      volts: this.voltsOf(g, soc, drop, ohms),
    }));
  }

  /** State of charge of the pack at which the first of them rests at `volts` of one cell. */
  firstAt(volts: number): number {
    const own = this.cell.socAt(volts);
    return Math.min(1, Math.max(0, ...this.kinds.map((g) => (own - g.empty) / g.per)));
  }

  /** [V] what each holds above a voltage at rest, as a part of the table's integral of the OCV. */
  above(soc: number, volts: number): number[] {
    const end = this.cell.area(this.cell.socAt(volts));
    return this.each.map(
      (g) => (g.weight / g.per) * Math.max(0, this.cell.area(g.empty + g.per * soc) - end),
    );
  }

  /** [V] integral of a group's OCV between two states of its own charge: by its charge, what it holds between them. */
  between(from: number, to: number): number {
    return this.cell.area(to) - this.cell.area(from);
  }

  private voltsOf(g: Blended, soc: number, drop: number, ohms: number): number {
    const { cell, looked } = this;
    cell.look(g.empty + g.per * soc, looked);
    const share = ohms > 0 ? (g.resistance * this.cell.ohms(looked)) / ohms : 1;
    return looked[LOOK.ocv]! - drop * share;
  }
}

/** Groups of the last few plants: drawn figures and cases share them. */
const kept = new WeakMap<CellTable, Map<string, Groups>>();
const FEW = 8;

/** The same groups on the same curves are made once. */
export function groupsOn(cell: CellTable, groups: readonly GroupAtStart[]): Groups {
  let known = kept.get(cell);
  if (!known) kept.set(cell, (known = new Map()));
  const name = JSON.stringify(groups);
  let made = known.get(name);
  if (!made) {
    if (known.size >= FEW) known.delete(known.keys().next().value!);
    known.set(name, (made = new Groups(cell, groups)));
  }
  return made;
}

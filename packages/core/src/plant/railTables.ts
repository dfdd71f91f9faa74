import type { Effort } from './effort.ts';

/** A rail's demand as a table; what is asked where a rail is searched again and again. */
export interface RailTable {
  /** [A] */
  demand(volts: number): number;
}

/** Searches of a rail after which its demand is tabulated rather than worked out again each time. */
const SEARCHED = 40;

/** Reads off a rail's table that cost about as much as one demand worked out. */
const READS = 4;

/** Which rails are asked so often that a table answers for them, and what a demand of each costs. */
export class RailTables {
  /** of a demand of each rail as it is now: none where a table says it, which counts its reads */
  readonly price: Uint8Array;
  private reads = 0;
  /** times a rail was worked out since something changed, and its table from then on */
  private readonly searched: Uint32Array;
  private readonly tables: (RailTable | undefined)[];

  /**
   * @param cost of a demand of each rail worked out
   * @param worth 1 for rails that are worth a table
   * @param filtered 1 for those behind a filter: one demand there is many looks at the table
   * @param tabulate makes one
   */
  constructor(
    private readonly cost: Uint8Array,
    private readonly worth: Uint8Array,
    private readonly filtered: Uint8Array,
    private readonly effort: Effort,
    private readonly tabulate: (rail: number) => RailTable,
  ) {
    this.price = cost.slice();
    this.searched = new Uint32Array(cost.length);
    this.tables = new Array<RailTable | undefined>(cost.length);
  }

  /** The table that answers for a rail that is asked once more; undefined while it is worked out. */
  asked(rail: number): RailTable | undefined {
    if (!this.worth[rail] || !(++this.searched[rail]! > SEARCHED)) return undefined;
    let table = this.tables[rail];
    if (!table) {
      table = this.tables[rail] = this.tabulate(rail);
      if (!this.filtered[rail]) this.price[rail] = 0;
    }
    if (++this.reads % READS === 0) this.effort.work++;
    return table;
  }

  /** What hangs on a rail draws otherwise. */
  drop(rail: number): void {
    this.tables[rail] = undefined;
    this.searched[rail] = 0;
    this.price[rail] = this.cost[rail]!;
  }

  /** What hangs on any does. */
  clear(): void {
    this.searched.fill(0);
    this.tables.fill(undefined);
    this.price.set(this.cost);
  }
}

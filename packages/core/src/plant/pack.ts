import { leadResistance } from '../conductors/lead.ts';
import { groupsOf, windowOf } from '../model/group.ts';
import { drainId, drainsOf, type Pack } from '../model/pack.ts';
import { HOURS_PER_MONTH, SECONDS_PER_HOUR } from '../units/constants.ts';
import { cellTable, type CellTable } from './cellTable.ts';
import type { Conditions } from './conditions.ts';
import { groupsOn, type Groups } from './groups.ts';
import { meanOf, oddOf, Sharing } from './sharing.ts';
import { cellFactors, followingAir, REFERENCE, warmthOf, type Warmth } from './warmth.ts';

/** Something in series between the cells and the path. */
export interface SeriesElement {
  id: 'protection' | 'fuse' | 'leads' | 'connectors' | 'disconnect';
  /** [Ω] */
  ohms: number;
}

/** The pack as the solver sees it: curves of one cell, counts, and what lies in series. */
export interface PackPlant {
  series: number;
  parallel: number;
  /**
   * [C] one cell, from full to empty of the pack; the mean where cells side by side differ. Like `cell` and `groups` it is set
   * anew where a board bleeds groups.
   */
  charge: number;
  /** [C] a usual cell holds as it has aged: what its rate is counted by */
  rated: number;
  /** of one cell; where groups differ, of their mean over the charge they can pass together */
  cell: CellTable;
  /** groups in series, where they differ */
  groups: Groups | undefined;
  /** how its cells warm themselves; without it they stay as they are and all factors are applied */
  warmth: Warmth | undefined;
  elements: SeriesElement[];
  /** [Ω] sum of the elements */
  seriesOhms: number;
  /** [A] what is taken at the cells at all times: the board's own draw and the drains */
  quiescent: number;
  /** which part of it each of them is: 1 in all */
  alwaysOn: { element: string; share: number }[];
  /** [1/s] share of what is left that drains away by itself */
  selfDischarge: number;
  /** [V] of one cell at which the protection opens; −Infinity without one */
  cutoff: number;
  /** [V] of one cell at which the protection stops a charge; Infinity without one */
  over: number;
  /** [V] of a cell above which its board bleeds the group; Infinity where it never does */
  bleeds: number;
  /** [A] at which it opens, and as a short circuit; Infinity without one */
  trip: number;
  short: number;
  /** cells side by side, where some differ and it is followed how they share */
  sharing: Sharing | undefined;
  /** [s] how long each must last before it opens */
  delays: Readonly<Record<'cutoff' | 'trip' | 'short', number>>;
}

/** [1/s] rate of an exponential loss of a share a month. Elementary; month = 730.5 h. */
export function monthlyRate(share: number): number {
  return -Math.log(1 - share) / (HOURS_PER_MONTH * SECONDS_PER_HOUR);
}

/** What lies in series with the cells: resistances from gauge and length. */
export function seriesElements(pack: Pack): SeriesElement[] {
  const elements: SeriesElement[] = [];
  const add = (id: SeriesElement['id'], ohms: number) => {
    if (ohms > 0) elements.push({ id, ohms });
  };
  add('protection', pack.protection?.resistance ?? 0);
  add('fuse', pack.fuse?.resistance ?? 0);
  add(
    'leads',
    pack.leads.reduce((sum, lead) => sum + leadResistance(lead), 0),
  );
  add('connectors', (pack.connectors?.contacts ?? 0) * (pack.connectors?.contactResistance ?? 0));
  add('disconnect', pack.disconnect?.resistance ?? 0);
  return elements;
}

/**
 * Compile a pack under conditions.
 * @param merged whether odd cells are taken as one with those beside them: what they hold and how they resist together
 */
export function packPlant(pack: Pack, given: Conditions, merged = false): PackPlant {
  const { capacity, resistance, air, box } = given;
  const factors = cellFactors(pack.cell);
  const { daily } = given;
  const warmth = pack.warmth
    ? warmthOf(pack.warmth, air, box, factors, daily)
    : daily && followingAir(air, factors, daily);
  // Cells that keep their temperature are compiled for it; those that do not, for 25 °C.
  const fixed = warmth ? REFERENCE : air;
  const elements = seriesElements(pack);
  const { protection } = pack;
  const always = [
    { element: 'protection', amps: protection?.quiescentCurrent ?? 0 },
    ...drainsOf(pack).map((d, k) => ({ element: drainId(k), amps: d.current })),
  ].filter((a) => a.amps > 0);
  const odd = oddOf(pack);
  const mean = odd ? meanOf(odd) : { capacity: 1, resistance: 1 };
  const ohms = resistance * factors.resistance.at(fixed);
  const own = cellTable(pack.cell, merged ? ohms * mean.resistance : ohms);
  const usual = pack.cell.capacityAh * SECONDS_PER_HOUR * capacity * factors.charge.at(fixed);
  const differing = groupsOf(pack, given.weakest);
  const groups = differing && groupsOn(own, differing);
  const window = differing ? windowOf(differing).width : 1;
  const quiescent = always.reduce((sum, a) => sum + a.amps, 0);
  return {
    series: pack.series,
    parallel: pack.parallel,
    charge: usual * mean.capacity * window,
    rated: usual,
    cell: groups ? groups.table : own,
    groups,
    sharing: odd && !merged ? new Sharing(own, odd, usual) : undefined,
    warmth,
    elements,
    seriesOhms: elements.reduce((sum, e) => sum + e.ohms, 0),
    quiescent,
    alwaysOn: always.map(({ element, amps }) => ({ element, share: amps / quiescent })),
    selfDischarge:
      monthlyRate(pack.cell.selfDischargePerMonth) * factors.selfDischarge.at(air) * given.selfDischarge,
    cutoff: protection?.cutoffVolts ?? -Infinity,
    over: protection?.overVolts ?? Infinity,
    bleeds:
      groups && protection?.balanceCurrent ? (protection.balanceVolts ?? pack.cell.fullVolts) : Infinity,
    trip: protection?.tripCurrent ?? Infinity,
    short: protection?.shortCurrent ?? Infinity,
    delays: {
      cutoff: protection?.cutoffDelay ?? 0,
      trip: protection?.tripDelay ?? 0,
      short: protection?.shortDelay ?? 0,
    },
  };
}

import { leadResistance } from '../conductors/lead.ts';
import type { Pack } from '../model/pack.ts';
import { HOURS_PER_MONTH, SECONDS_PER_HOUR } from '../units/constants.ts';
import { cellTable, type CellTable } from './cellTable.ts';
import type { Conditions } from './conditions.ts';

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
  /** [C] one cell */
  charge: number;
  cell: CellTable;
  elements: SeriesElement[];
  /** [Ω] sum of the elements */
  seriesOhms: number;
  /** [A] the protection board's own draw, taken at the cells */
  quiescent: number;
  /** [1/s] share of what is left that drains away by itself */
  selfDischarge: number;
  /** [V] of one cell at which the protection opens; −Infinity without one */
  cutoff: number;
  /** [A] at which it opens; Infinity without one */
  trip: number;
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

/** Compile a pack under conditions. */
export function packPlant(pack: Pack, { capacity, resistance }: Conditions): PackPlant {
  const elements = seriesElements(pack);
  return {
    series: pack.series,
    parallel: pack.parallel,
    charge: pack.cell.capacityAh * SECONDS_PER_HOUR * capacity,
    cell: cellTable(pack.cell, resistance),
    elements,
    seriesOhms: elements.reduce((sum, e) => sum + e.ohms, 0),
    quiescent: pack.protection?.quiescentCurrent ?? 0,
    selfDischarge: monthlyRate(pack.cell.selfDischargePerMonth),
    cutoff: pack.protection?.cutoffVolts ?? -Infinity,
    trip: pack.protection?.tripCurrent ?? Infinity,
  };
}

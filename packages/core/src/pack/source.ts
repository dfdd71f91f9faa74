import type { CellRecord } from '../model/cell.ts';
import type { Pack } from '../model/pack.ts';
import { leadResistance } from '../conductors/lead.ts';
import { pchip, type Curve } from '../numeric/pchip.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** Something in series between the cells and the path. */
export interface SeriesElement {
  id: 'protection' | 'fuse' | 'leads' | 'connectors' | 'disconnect';
  /** [Ω] */
  ohms: number;
}

export interface BranchCurves {
  /** [Ω] over state of charge */
  ohms: Curve;
  /** [F] over state of charge */
  farads: Curve;
}

/** The pack as the solver sees it: curves of one cell, counts, and what lies in series. */
export interface PackSource {
  series: number;
  parallel: number;
  /** [C] one cell */
  charge: number;
  ocv: Curve;
  r0: Curve;
  branches: BranchCurves[];
  elements: SeriesElement[];
  /** [Ω] sum of the elements */
  seriesOhms: number;
  /** [A] the protection board's own draw, taken at the cells */
  quiescent: number;
}

/** The curves of a cell. */
export function cellCurves(cell: CellRecord): { ocv: Curve; r0: Curve; branches: BranchCurves[] } {
  return {
    ocv: pchip(cell.ocv.soc, cell.ocv.volts),
    r0: pchip(cell.r0.soc, cell.r0.ohms),
    branches: cell.branches.map((b) => ({ ohms: pchip(b.soc, b.ohms), farads: pchip(b.soc, b.farads) })),
  };
}

/** Resolve a pack: resistances from gauge and length, curves from tables. */
export function packSource(pack: Pack): PackSource {
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
  return {
    series: pack.series,
    parallel: pack.parallel,
    charge: pack.cell.capacityAh * SECONDS_PER_HOUR,
    ...cellCurves(pack.cell),
    elements,
    seriesOhms: elements.reduce((sum, e) => sum + e.ohms, 0),
    quiescent: pack.protection?.quiescentCurrent ?? 0,
  };
}

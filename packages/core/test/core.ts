/** The core as its tests see it: every entry, and what only they look into. */
import type { CellRecord } from '../src/model/cell.ts';
import type { Pack } from '../src/model/pack.ts';
import type { ThreadDocument } from '../src/model/thread.ts';
import { pchip } from '../src/numeric/pchip.ts';
import { cellTable } from '../src/plant/cellTable.ts';
import { compile, type Plant } from '../src/plant/compile.ts';
import { seriesElements } from '../src/plant/pack.ts';
import { Instant } from '../src/run/step/instant.ts';
import { Reading } from '../src/run/reading/reading.ts';
import type { Series } from '../src/run/account/series.ts';
import { CellState } from '../src/run/step/state.ts';

export * from '../src/index.ts';
export * from '../src/model.ts';
export * from '../src/units.ts';
export * from '../src/design.ts';
export * from '../src/charging.ts';
export { applyEdits } from '../src/model/edit.ts';
export * from '../src/solve.ts';
export * from '../src/design/eSeries.ts';
export * from '../src/design/filter.ts';
export * from '../src/design/programming.ts';
export * from '../src/design/thermal.ts';
export * from '../src/model/kinds/boost.ts';
export * from '../src/model/kinds/buck.ts';
export * from '../src/model/kinds/buckBoost.ts';
export * from '../src/model/kinds/direct.ts';
export * from '../src/model/kinds/linear.ts';
export * from '../src/model/kinds/sepic.ts';
export * from '../src/model/record.ts';
export * from '../src/numeric/pchip.ts';
export * from '../src/numeric/root.ts';
export * from '../src/sizing/choose.ts';
export * from '../src/sizing/inductors.ts';
export * from '../src/sizing/suggest.ts';
export * from '../src/run/account/series.ts';
export * from '../src/stages/modes.ts';
export * from '../src/stages/point.ts';
export * from '../src/model/migrate.ts';
export * from '../src/model/parts.ts';
export * from '../src/stages/limits.ts';

/** The curves of a cell, each by itself. */
export function cellCurves(cell: CellRecord) {
  return {
    ocv: pchip(cell.ocv.soc, cell.ocv.volts),
    r0: pchip(cell.r0.soc, cell.r0.ohms),
    branches: cell.branches.map((b) => ({ ohms: pchip(b.soc, b.ohms), farads: pchip(b.soc, b.farads) })),
  };
}

/** A pack as curves and resistances. */
export function packSource(pack: Pack) {
  const elements = seriesElements(pack);
  return {
    ...cellCurves(pack.cell),
    series: pack.series,
    parallel: pack.parallel,
    charge: pack.cell.capacityAh * 3600,
    quiescent: pack.protection?.quiescentCurrent ?? 0,
    elements,
    seriesOhms: elements.reduce((sum, e) => sum + e.ohms, 0),
  };
}

/** State of charge a cell rests at `volts` at. */
export function socFromVoltage(cell: CellRecord, volts: number): number {
  return cellTable(cell).socAt(volts);
}

/** One column of a run. */
export function column(series: Series, index: number): Float64Array {
  return new Reading(series, Infinity).column(index);
}

/** Last row at or before a time. */
export function rowAt(series: Series, time: number): number {
  return new Reading(series, Infinity).rowAt(time);
}

/** A thread at one state of charge, at rest. */
export function instantAt(
  doc: ThreadDocument,
  soc: number,
): { plant: Plant; state: CellState; instant: Instant } {
  const plant = compile(doc);
  return { plant, state: new CellState(plant.pack, soc), instant: new Instant(plant) };
}
export * from '../src/io/records.ts';

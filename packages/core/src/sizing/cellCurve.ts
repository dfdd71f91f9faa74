import type { CellRecord } from '../model/cell.ts';
import { FORMAT, PACK, VERSION, type ThreadDocument } from '../model/thread.ts';
import { cellTable } from '../plant/cellTable.ts';
import { readingOf } from '../run/reading/reading.ts';
import type { DeadReason } from '../run/account/result.ts';
import { simulate } from '../run/rundown.ts';
import { ROW } from '../run/account/series.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** One cell discharged by a steady current. */
export interface CellCurve {
  /** [Ah] taken, and there [V] at the terminals and at rest */
  taken: number[];
  volts: number[];
  rest: number[];
  /** [Ah] [Wh] given until it stops, [Wh] lost in the cell, [h] */
  ah: number;
  wh: number;
  heat: number;
  hours: number;
  ends: DeadReason;
}

/** Points of a curve: as many as a picture shows. */
const POINTS = 160;

/**
 * A cell alone, from full to its end voltage by one current. The run is that of any thread.
 * @param amps [A] @param air [°C] the cell and what is around it
 */
export function cellCurve(cell: CellRecord, amps: number, air: number): CellCurve {
  const run = simulate(oneCell(cell, amps, air), { rows: POINTS });
  const reading = readingOf(run);
  const rows = Array.from({ length: reading.count }, (_, k) => k);
  const at = (column: number) => rows.map((row) => reading.at(row, column));
  const hours = run.deadEnd.time / SECONDS_PER_HOUR;
  const { entries } = run.ledgerAtDead;
  const of = (element: string) => entries.filter((e) => e.element === element);
  const joules = (list: typeof entries) => list.reduce((sum, e) => sum + e.joules, 0) / SECONDS_PER_HOUR;
  return {
    taken: rows.map((row) => (amps * reading.time(row)) / SECONDS_PER_HOUR),
    volts: at(ROW.cellVolts),
    rest: at(ROW.restVolts),
    ah: amps * hours,
    wh: joules(of('load')),
    heat: joules(of('cells').filter((e) => e.mechanism !== 'self-discharge')),
    hours,
    ends: run.deadEnd.reason,
  };
}

/** [Ω] of a cell half full, what its branches add after a while included. */
export function halfOhms(cell: CellRecord): number {
  const table = cellTable(cell);
  const looked = table.room();
  table.look(0.5, looked);
  return table.ohms(looked);
}

/** State of charge of a cell that rests at `volts`; 0 or 1 beyond its curve. */
export function restSoc(cell: CellRecord, volts: number): number {
  return cellTable(cell).socAt(volts);
}

/** A thread of nothing but a cell, a board that opens at its end voltage, and a current. */
function oneCell(cell: CellRecord, amps: number, air: number): ThreadDocument {
  return {
    format: FORMAT,
    version: VERSION,
    name: cell.name,
    goals: { hours: 1 },
    conditions: { air, minAir: air, maxAir: air },
    pack: {
      cell,
      series: 1,
      parallel: 1,
      startSoc: 1,
      protection: {
        cutoffVolts: cell.endVolts,
        tripCurrent: 1000,
        resistance: 0,
        quiescentCurrent: 0,
        grade: 'assumed',
      },
      leads: [],
    },
    stages: [],
    loads: [
      {
        id: 'load',
        name: 'Current',
        from: PACK,
        draw: 'current',
        current: amps,
        range: { min: 0, max: 1000 },
        essential: true,
        grade: 'assumed',
      },
    ],
  };
}

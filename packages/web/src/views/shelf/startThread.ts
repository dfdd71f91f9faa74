import { simplestWay, wayTo } from '@mile-thread/core';
import {
  applyEdits,
  FORMAT,
  PACK,
  VERSION,
  type CellRecord,
  type ThreadDocument,
} from '@mile-thread/core/model';

/** What the short start asks. */
export interface Start {
  name: string;
  /** [V] */
  volts: number;
  /** [A] */
  amps: number;
  /** [V] */
  range: { min: number; max: number };
  /** [h] */
  hours: number;
  cell: CellRecord;
}

/** Share of the stored energy that a first guess expects at the load. Common practice, no source. */
const GUESS = 0.8;

/** As many cells side by side as a pack may have: more of a tiny cell would not help. */
export const MOST_PARALLEL = 500;

/**
 * A first design for one load: as few cells in series as the load's power allows, as many in parallel as the
 * hours ask, and the stage that fits the pack's whole range. The person changes it from there.
 */
export function startThread({ name, volts, amps, range, hours, cell }: Start): ThreadDocument {
  const mean = (cell.fullVolts + cell.endVolts) / 2;
  const wattHours = (volts * amps * hours) / GUESS;
  // One cell up to 10 W; above that, cells in series keep currents small. Common practice, no source.
  const series = volts * amps <= 10 ? 1 : Math.min(6, Math.max(2, Math.round(volts / mean)));
  const parallel = Math.max(
    1,
    Math.min(MOST_PARALLEL, Math.ceil(wattHours / (series * mean * cell.capacityAh))),
  );
  const low = series * cell.endVolts;
  const peak = (volts * amps) / (0.85 * low);
  const straight: ThreadDocument = {
    format: FORMAT,
    version: VERSION,
    name,
    goals: { hours },
    pack: {
      cell,
      series,
      parallel,
      startSoc: 1,
      protection: {
        cutoffVolts: Math.max(cell.damageVolts, Number((cell.endVolts - 0.2).toFixed(2))),
        tripCurrent: Number(Math.max(1, 2.5 * peak).toPrecision(2)),
        resistance: 0.03,
        quiescentCurrent: 5e-6,
        grade: 'assumed',
      },
      leads: [{ gaugeSystem: 'AWG', gauge: 20, length: 0.2, parallel: 1, temperature: 25 }],
    },
    stages: [],
    loads: [
      {
        id: 'load-1',
        name: 'Load 1',
        from: PACK,
        draw: 'current',
        current: amps,
        range,
        essential: true,
        grade: 'assumed',
      },
    ],
  };
  const way = simplestWay(straight, 'load-1', [], volts) ?? wayTo(straight, 'load-1', 'buckBoost', volts);
  return applyEdits(straight, way?.edits ?? []);
}

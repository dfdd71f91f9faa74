import type { Plant } from '../../plant/compile.ts';
import { highestCellVolts, lowestCellVolts, pathAmps } from '../step/state.ts';

/** What at the pack itself ends a run. */
export const PACK_EVENT = {
  cutoff: 1,
  trip: 2,
  empty: 4,
  short: 8,
  over: 16,
  opens: 32,
  bleeds: 64,
} as const;

/** Events of the pack in which loads are shed are counted from here on. */
const SHED = 128;

/**
 * Everything about an instant that is not continuous, as two numbers: the state of the path (modes, limits crossed,
 * loads in range) and what the pack itself does. Two instants with equal numbers have no event between them, or an even
 * number of the same.
 */
export class Events {
  path = -1;
  pack = 0;

  constructor(private readonly plant: Plant) {}

  /** Read an instant, with the path evaluated or read there. */
  take(volts: number, amps: number, soc: number): this {
    this.path = this.plant.path.event;
    this.pack = packEvents(this.plant, volts, amps, soc);
    return this;
  }

  /** Whether an instant differs from this one. @param event of the path there */
  differs({ event, volts, amps, soc }: { event: number; volts: number; amps: number; soc: number }): boolean {
    return event !== this.path || packEvents(this.plant, volts, amps, soc) !== this.pack;
  }
}

function packEvents({ pack, sheds, charger }: Plant, volts: number, amps: number, soc: number): number {
  const into = pathAmps(pack, amps);
  // Nothing watches the highest but a charge.
  const highest = charger ? highestCellVolts(pack, volts, amps, soc) : -Infinity;
  let shed = 0;
  for (let k = 0; k < sheds.length; k++) {
    const at = sheds[k]!;
    if (soc < at.soc || volts < at.volts) shed += SHED;
  }
  return (
    shed |
    (lowestCellVolts(pack, volts, amps, soc) < pack.cutoff ? PACK_EVENT.cutoff : 0) |
    (into > pack.trip ? PACK_EVENT.trip : 0) |
    (into > pack.short ? PACK_EVENT.short : 0) |
    (soc <= 0 ? PACK_EVENT.empty : 0) |
    (charger && soc > 1 ? PACK_EVENT.over : 0) |
    (highest > pack.over ? PACK_EVENT.opens : 0) |
    (highest > pack.bleeds ? PACK_EVENT.bleeds : 0)
  );
}

import type { Plant } from '../../plant/compile.ts';
import { highestCellVolts, lowestCellVolts, pathAmps } from '../step/state.ts';
import type { PackSeen, PackWatch } from './watch.ts';

/** Those told apart are bits below this; those counted are counted in it. */
const COUNTED = 1 << 16;

/**
 * Everything about an instant that is not continuous, as two numbers: the state of the path (modes, limits crossed,
 * loads in range) and what of the pack is watched. Two instants with equal numbers have no event between them, or an even
 * number of the same.
 */
export class Events {
  path = -1;
  pack = 0;
  /** what is watched, the place of one told apart is its bit */
  private readonly apart: PackWatch[] = [];
  private readonly all = new Set<PackWatch>();
  private readonly tells: ((seen: PackSeen) => boolean)[] = [];
  private readonly counts: number[] = [];
  private highest = false;
  private readonly seen: PackSeen = { volts: 0, into: 0, soc: 0, lowest: 0, highest: -Infinity };

  constructor(
    private readonly plant: Plant,
    watches: Iterable<PackWatch> = [],
  ) {
    this.watch(watches);
  }

  /** Watch these as well. */
  watch(watches: Iterable<PackWatch>): void {
    for (const watch of watches) {
      if (this.all.has(watch)) continue;
      this.all.add(watch);
      const tell = watch.of(this.plant);
      if (!tell) continue;
      this.tells.push(tell);
      this.counts.push(watch.counted ? COUNTED : 1 << this.apart.length);
      if (!watch.counted) this.apart.push(watch);
      this.highest ||= watch.highest === true;
    }
  }

  /** All that is watched. */
  get watched(): Iterable<PackWatch> {
    return this.all;
  }

  /** Read an instant, with the path evaluated or read there. */
  take(volts: number, amps: number, soc: number): this {
    this.path = this.plant.path.event;
    this.pack = this.packAt(volts, amps, soc);
    return this;
  }

  /** Whether something told apart is so at the instant read last. */
  has(watch: PackWatch): boolean {
    const place = this.apart.indexOf(watch);
    return place >= 0 && (this.pack & (1 << place)) !== 0;
  }

  /** Whether an instant differs from this one. @param event of the path there */
  differs({ event, volts, amps, soc }: { event: number; volts: number; amps: number; soc: number }): boolean {
    return event !== this.path || this.packAt(volts, amps, soc) !== this.pack;
  }

  private packAt(volts: number, amps: number, soc: number): number {
    const { plant, seen, tells, counts } = this;
    const { pack } = plant;
    seen.volts = volts;
    seen.into = pathAmps(pack, amps);
    seen.soc = soc;
    seen.lowest = lowestCellVolts(pack, volts, amps, soc);
    if (this.highest) seen.highest = highestCellVolts(pack, volts, amps, soc);
    let found = 0;
    for (let k = 0; k < tells.length; k++) if (tells[k]!(seen)) found += counts[k]!;
    return found;
  }
}

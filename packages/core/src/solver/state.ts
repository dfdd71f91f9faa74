import type { PackPlant } from '../plant/pack.ts';

/** Where the cells stand at an instant. Temperature and spread between groups would be further fields of it. */
export class CellState {
  /** [s] since the start */
  time = 0;
  /** state of charge 0…1; a little below 0 where a run ends empty */
  soc: number;
  /** [V] of each RC branch, one cell */
  readonly branches: Float64Array;
  /** [V] where the path begins, of the instant solved last; NaN before the first */
  volts = NaN;
  /** [A] out of one cell, of the same instant */
  amps = NaN;

  constructor(pack: PackPlant, soc: number) {
    this.soc = soc;
    this.branches = new Float64Array(pack.cell.branches);
  }
}

/** [A] into the path when one cell gives `amps`: without the protection board's own draw. */
export function pathAmps({ parallel, quiescent }: PackPlant, amps: number): number {
  return amps * parallel - quiescent;
}

/** [A] of one cell when the path takes `amps`: the protection board's own draw besides. */
export function cellAmps({ parallel, quiescent }: PackPlant, amps: number): number {
  return (amps + quiescent) / parallel;
}

/** [V] of one cell at its terminals. @param volts [V] where the path begins @param amps [A] one cell */
export function cellVolts(pack: PackPlant, volts: number, amps: number): number {
  return (volts + pack.seriesOhms * pathAmps(pack, amps)) / pack.series;
}

/** [1/s] share of its charge a cell loses at an instant: what it gives and what drains away by itself. */
export function drainRate(pack: PackPlant, amps: number, soc: number): number {
  return amps / pack.charge + pack.selfDischarge * (soc > 0 ? soc : 0);
}

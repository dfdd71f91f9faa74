/** [Wh] Limits of a battery a passenger carries by air. Common practice: ask the carrier, rules change. */
export const AIR_FREE = 100;
export const AIR_ASK = 160;
/** [Wh] of one cell, beyond which the simplified rules of shipment no longer hold. Common practice. */
export const CELL_LIMIT = 20;

/** How a battery may come along in a passenger's bag. */
export type AirClass = 'free' | 'ask' | 'refused';

/** Which class a pack's energy falls in. @param wh [Wh] rated */
export function airClass(wh: number): AirClass {
  if (wh <= AIR_FREE) return 'free';
  return wh <= AIR_ASK ? 'ask' : 'refused';
}

/** What stands on a pack's label, and what an advertisement would print. */
export interface Label {
  /** [Wh] [Ah] of the pack at its own volts */
  wh: number;
  ah: number;
  /** [Ah] of all cells added up, whatever their volts */
  cellsAh: number;
  /** [Ah] that come out at the volts of an output */
  outputAh: number;
}

/**
 * The honest label of a pack beside the figure an advertisement would print.
 * @param nominal [V] of a cell @param efficiency of what is behind it @param output [V] where it comes out. Arithmetic.
 */
export function labelOf(
  series: number,
  parallel: number,
  ampHours: number,
  nominal: number,
  efficiency: number,
  output: number,
): Label {
  const wh = series * parallel * ampHours * nominal;
  return {
    wh,
    ah: parallel * ampHours,
    cellsAh: series * parallel * ampHours,
    outputAh: (wh * efficiency) / output,
  };
}

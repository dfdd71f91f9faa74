import type { Plant } from '../../plant/compile.ts';
import { DELIVERED } from '../../plant/layout.ts';
import type { Piece } from '../../plant/piece.ts';

/** One of a step's two nodes. Branch volts in `branches`. */
export interface Node {
  /** [V] where the path begins, [A] one cell, state of charge */
  volts: number;
  amps: number;
  /** of half a step, how much of it the path is as here: where it hunts between two ways, not alike */
  share: number;
  soc: number;
  /** [V] OCV that counts there: its own, moved so that the step's mean is exact */
  ocv: number;
  /** curves of the cell there, see LOOK */
  looked: Float64Array;
  branches: Float64Array;
  /** [W] that flows between cells side by side that differ, over their number */
  between: number;
  /** [V] OCV of what drains away by itself above that of what flows out, where such cells differ */
  leak: number;
  /** number of the path's state there, and the piece of its chart; none where it is asked exactly */
  event: number;
  piece: Piece | undefined;
}

/** [W] to all loads at a node. */
export function deliveredAt({ piece, volts }: Node, { path }: Plant): number {
  return piece ? piece.leading(DELIVERED, volts) : path.delivered(volts);
}

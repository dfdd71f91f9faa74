import type { Plant } from '../../plant/compile.ts';

/** The pack at an instant, as what is watched of it tells by. */
export interface PackSeen {
  /** [V] where the path begins, [A] into it, and state of charge */
  volts: number;
  into: number;
  soc: number;
  /** [V] of the lowest and of the highest cell; the highest only where somebody asks for it */
  lowest: number;
  highest: number;
}

/**
 * Something of the pack itself that a keeper wants to know of: it is or it is not, and a march stops where it begins and ends. A
 * keeper declares what it watches; where none does, nothing stops there.
 */
export interface PackWatch {
  /** whether it looks at the highest cell, which costs something where groups differ */
  readonly highest?: boolean;
  /** whether it is counted with all others that are, rather than told apart from them: whoever declares many looks for itself */
  readonly counted?: boolean;
  /** How it is told; undefined where this plant has nothing of it. */
  of(plant: Plant): ((seen: PackSeen) => boolean) | undefined;
}

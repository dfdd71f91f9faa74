import {
  dividerSpread,
  findDividers,
  type DividerPair,
  type DividerTask,
  type Spread,
} from '@mile-thread/core/design';

/** A divider with what its tolerances make of it. */
export interface OfferedDivider extends DividerPair {
  spread: Spread;
}

/** The best pairs for a set voltage. */
export function dividers(task: DividerTask): OfferedDivider[] {
  const { reference, referenceTolerance, resistorTolerance, pinBias } = task;
  return findDividers(task, 6).map((p) => ({
    ...p,
    spread: dividerSpread(reference, referenceTolerance, p.top, p.bottom, resistorTolerance, pinBias),
  }));
}

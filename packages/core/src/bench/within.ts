import { dividerSpread } from '../design/divider.ts';
import { isConverter, type Stage } from '../model/kinds/registry.ts';

/** Share by which a set point that is nowhere stated may be off; 95 of 100 within. Common practice, no source. */
const SET = 0.03;
/** [V] of one cell by which a board's cut-off is off; 95 of 100 within. Common practice, no source. */
export const CUTOFF = 0.08;
/** Share by which the current is off at which a board opens; 95 of 100 within. Common practice, no source. */
export const TRIP = 0.25;
/** [V] within which 95 of 100 set points are: by the divider of its parts, else as is common. */
export function setWithin(stage: Stage & { outputVolts: number }): number {
  const divider = isConverter(stage) ? stage.parts?.divider : undefined;
  if (!divider) return SET * stage.outputVolts;
  const { reference, referenceTolerance, top, bottom, resistorTolerance, pinBias } = divider;
  return dividerSpread(reference, referenceTolerance, top, bottom, resistorTolerance, pinBias).likely;
}

import { programmedRange } from '../charging/current.ts';
import { dividerSpread } from '../design/divider.ts';
import { USUAL_TOLERANCES } from '../model/belief.ts';
import type { Charging } from '../model/charging.ts';
import { isConverter, type Stage } from '../model/kinds/registry.ts';
import type { Source } from '../model/sources/registry.ts';

/** Share by which a set point that is nowhere stated may be off; 95 of 100 within. Common practice, no source. */
const SET = 0.03;
/** [V] of one cell by which a board's cut-off is off; 95 of 100 within. Common practice, no source. */
export const CUTOFF = 0.08;
/** Share by which the current is off at which a board opens; 95 of 100 within. Common practice, no source. */
export const TRIP = 0.25;
/** Share of a source's open volts by which these are off; 95 of 100 within. Common practice, no source. */
export const OPEN = 0.03;

/** [A] within which the current is that a charger is set to: by the resistors of its parts, else by how well it is known. */
export function currentWithin({ control, stage }: Pick<Charging, 'control' | 'stage'>): number {
  const { current, programming } = control!;
  const range = programming && programmedRange(programming).worst;
  return range ? range.most - current : USUAL_TOLERANCES[stage.grade] * current;
}

/** [A] within which the current is at which it ends. */
export function endWithin({ control, stage }: Pick<Charging, 'control' | 'stage'>): number {
  return USUAL_TOLERANCES[stage.grade] * (control!.terminate ?? 0);
}

/** Share within which the droop of a source is: it is told less well than its volts. Common practice, no source. */
export function droopWithin({ grade }: Pick<Source, 'grade'>): number {
  return 2 * USUAL_TOLERANCES[grade];
}

/** [V] within which 95 of 100 set points are: by the divider of its parts, else as is common. */
export function setWithin(stage: Stage & { outputVolts: number }): number {
  const divider = isConverter(stage) ? stage.parts?.divider : undefined;
  if (!divider) return SET * stage.outputVolts;
  const { reference, referenceTolerance, top, bottom, resistorTolerance, pinBias } = divider;
  return dividerSpread(reference, referenceTolerance, top, bottom, resistorTolerance, pinBias).likely;
}

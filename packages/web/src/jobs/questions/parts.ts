import { partsFor, type InputRange } from '@mile-thread/core/design';
import type { Converter, StageParts } from '@mile-thread/core/model';

/** Parts to begin with. @param iout [A] @param frequency [Hz] */
export function parts(stage: Converter, range: InputRange, iout: number, frequency: number): StageParts {
  return partsFor(stage, range, iout, frequency);
}

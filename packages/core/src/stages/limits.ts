import { isRegulated, type Converter, type Stage } from '../model/kinds/registry.ts';
import type { LimitSet } from '../model/parts.ts';

/** The limits that count for a stage: the strictest of its own, its listing's and its chip's. */
export interface Limits {
  /** [A] */
  output: number;
  /** [A] */
  input: number;
  /** [V] below which it locks out */
  minInput: number;
  /** [V] */
  maxInput: number;
}

/** [A] output current one set of limits allows at `volts`. */
export function outputLimitOf(set: LimitSet | undefined, volts: number): number {
  return Math.min(set?.outputAmps ?? Infinity, (set?.outputWatts ?? Infinity) / volts);
}

export function limitsOf(stage: Stage): Limits {
  if (!isRegulated(stage))
    return { output: Infinity, input: Infinity, minInput: 0, maxInput: stage.maxInput };
  const { listing, chip, outputVolts } = stage;
  return {
    output: Math.min(
      stage.outputLimit ?? Infinity,
      outputLimitOf(listing, outputVolts),
      outputLimitOf(chip, outputVolts),
    ),
    input: Math.min(
      'inputLimit' in stage ? stage.inputLimit : Infinity,
      listing?.inputAmps ?? Infinity,
      chip?.inputAmps ?? Infinity,
    ),
    minInput: Math.max(stage.minInput, listing?.minInput ?? 0, chip?.minInput ?? 0),
    maxInput: Math.min(stage.maxInput, listing?.maxInput ?? Infinity, chip?.maxInput ?? Infinity),
  };
}

/** [A] peak of the inductor current a stage with parts stops at: its controller's, or less by listing or chip. */
export function peakLimitOf(stage: Converter): number {
  const { parts, listing, chip } = stage;
  return Math.min(parts?.peakLimit ?? Infinity, listing?.inputAmps ?? Infinity, chip?.inputAmps ?? Infinity);
}

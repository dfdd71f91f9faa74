import { Part, Quantity } from '../fields.ts';
import { TwoSwitchParts } from '../parts.ts';
import { ConverterStage } from './base.ts';

/** A step-down converter. */
export class BuckStage extends ConverterStage {
  declare kind: 'buck';
  @Quantity('', 0.05, 1, 'Largest share of the period the switch can be on', { label: 'Maximum duty' })
  maxDuty!: number;
  @Quantity('Ω', 0, 100, 'Switch, inductor and tracks in series when fully on', {
    label: 'Resistance in dropout',
  })
  dropoutResistance!: number;
  @Part(() => TwoSwitchParts, 'Real parts', { optional: true })
  parts?: TwoSwitchParts;
}

declare module './registry.ts' {
  interface StageTypes {
    buck: BuckStage;
  }
}

export function defaultBuck(id: string, from: string, outputVolts: number): BuckStage {
  return {
    id,
    from,
    kind: 'buck',
    name: 'Buck',
    outputVolts,
    minInput: 4,
    hysteresis: 0.3,
    maxInput: 28,
    outputLimit: 2,
    loss: { basis: 'efficiency', efficiency: 0.91, quiescentCurrent: 0.8e-3 },
    maxDuty: 0.95,
    dropoutResistance: 0.12,
    grade: 'assumed',
  };
}

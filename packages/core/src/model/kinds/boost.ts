import { Part, Quantity } from '../fields.ts';
import { TwoSwitchParts } from '../parts.ts';
import { ConverterStage } from './base.ts';

/** A step-up converter. Its input always reaches its output through inductor and rectifier. */
export class BoostStage extends ConverterStage {
  declare kind: 'boost';
  @Quantity('', 0.05, 0.99, 'Largest share of the period the switch can be on', { label: 'Maximum duty' })
  maxDuty!: number;
  @Quantity('A', 1e-3, 2000, 'Largest input current (switch limit)', { label: 'Switch limit' })
  inputLimit!: number;
  @Quantity('Ω', 0, 100, 'Inductor and rectifier in series when it passes through', {
    label: 'Resistance passing through',
  })
  passResistance!: number;
  @Quantity('V', 0, 2, 'Drop of the rectifier; 0 when synchronous', { label: 'Rectifier drop' })
  rectifierVolts!: number;
  @Part(() => TwoSwitchParts, 'Real parts', { optional: true })
  parts?: TwoSwitchParts;
}

declare module './registry.ts' {
  interface StageTypes {
    boost: BoostStage;
  }
}

export function defaultBoost(id: string, from: string, outputVolts: number): BoostStage {
  return {
    id,
    from,
    kind: 'boost',
    name: 'Boost',
    outputVolts,
    minInput: 2.5,
    hysteresis: 0.2,
    maxInput: 24,
    loss: { basis: 'efficiency', efficiency: 0.9, quiescentCurrent: 1e-3 },
    maxDuty: 0.88,
    inputLimit: 4,
    passResistance: 0.09,
    rectifierVolts: 0.35,
    grade: 'assumed',
  };
}

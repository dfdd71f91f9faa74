import { Part, Quantity } from '../fields.ts';
import { FourSwitchParts } from '../parts.ts';
import { ConverterStage } from './base.ts';

/** A four-switch buck-boost: works as buck, as boost, or with all four switches in between. */
export class BuckBoostStage extends ConverterStage {
  declare kind: 'buckBoost';
  @Quantity('', 0.5, 0.999, 'Largest duty of the buck leg', { label: 'Buck leg, most duty' })
  maxBuckDuty!: number;
  @Quantity('', 0.001, 0.5, 'Smallest duty of the boost leg', { label: 'Boost leg, least duty' })
  minBoostDuty!: number;
  @Quantity('', 0.05, 0.99, 'Largest duty of the boost leg', { label: 'Boost leg, most duty' })
  maxBoostDuty!: number;
  @Quantity('', 0, 0.5, 'Extra loss while all four switches work, as a fraction of the output power', {
    label: 'Extra loss, all four',
  })
  bothLoss!: number;
  @Quantity('A', 1e-3, 2000, 'Largest input current (switch limit)', { label: 'Switch limit' })
  inputLimit!: number;
  @Quantity('Ω', 0, 100, 'Two switches and the inductor in series', { label: 'Path resistance' })
  pathResistance!: number;
  @Part(() => FourSwitchParts, 'Real parts', { optional: true })
  parts?: FourSwitchParts;
}

declare module './registry.ts' {
  interface StageTypes {
    buckBoost: BuckBoostStage;
  }
}

export function defaultBuckBoost(id: string, from: string, outputVolts: number): BuckBoostStage {
  return {
    id,
    from,
    kind: 'buckBoost',
    name: 'Buck-boost',
    outputVolts,
    minInput: 2.8,
    hysteresis: 0.3,
    maxInput: 24,
    loss: { basis: 'efficiency', efficiency: 0.91, quiescentCurrent: 1.5e-3 },
    maxBuckDuty: 0.93,
    minBoostDuty: 0.08,
    maxBoostDuty: 0.85,
    bothLoss: 0.02,
    inputLimit: 4,
    pathResistance: 0.08,
    grade: 'assumed',
  };
}

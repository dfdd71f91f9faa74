import { Part, Quantity } from '../fields.ts';
import { SepicParts } from '../parts.ts';
import { ConverterStage } from './base.ts';

/** A SEPIC: steps up and down with one driven switch; its input never reaches the output directly. */
export class SepicStage extends ConverterStage {
  declare kind: 'sepic';
  @Quantity('', 0.05, 0.99, 'Largest share of the period the switch can be on', { label: 'Maximum duty' })
  maxDuty!: number;
  @Quantity('A', 1e-3, 2000, 'Largest input current (switch limit)', { label: 'Switch limit' })
  inputLimit!: number;
  @Quantity('V', 0, 2, 'Drop of the rectifier; 0 when synchronous', { label: 'Rectifier drop' })
  rectifierVolts!: number;
  @Quantity('Ω', 0, 100, 'Second inductor and rectifier in series with the output', {
    label: 'Path resistance',
  })
  pathResistance!: number;
  @Part(() => SepicParts, 'Real parts', { optional: true })
  parts?: SepicParts;
}

declare module './registry.ts' {
  interface StageTypes {
    sepic: SepicStage;
  }
}

export function defaultSepic(id: string, from: string, outputVolts: number): SepicStage {
  return {
    id,
    from,
    kind: 'sepic',
    name: 'SEPIC',
    outputVolts,
    minInput: 2.8,
    hysteresis: 0.3,
    maxInput: 24,
    loss: { basis: 'efficiency', efficiency: 0.86, quiescentCurrent: 1e-3 },
    maxDuty: 0.88,
    inputLimit: 3,
    rectifierVolts: 0.4,
    pathResistance: 0.12,
    grade: 'assumed',
  };
}

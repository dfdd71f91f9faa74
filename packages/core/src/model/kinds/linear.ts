import { Quantity } from '../fields.ts';
import { RegulatedStage } from './base.ts';

/** A linear regulator: the output current passes through, the rest of the volts become heat. */
export class LinearStage extends RegulatedStage {
  declare kind: 'linear';
  @Quantity('V', 0, 10, 'Headroom it needs at any current', { label: 'Dropout, constant' })
  dropoutVolts!: number;
  @Quantity('Ω', 0, 1000, 'Headroom it needs per ampere', { label: 'Dropout per A' })
  dropoutResistance!: number;
  @Quantity('A', 0, 1, 'Current to ground')
  quiescentCurrent!: number;
  @Quantity('K/W', 0, 1000, 'Junction above the air per watt', { label: 'Junction to air' })
  thermalResistance!: number;
  @Quantity('°C', 0, 300, 'Hottest junction allowed', { label: 'Junction limit' })
  maxJunction!: number;
}

declare module './registry.ts' {
  interface StageTypes {
    linear: LinearStage;
  }
}

export function defaultLinear(id: string, from: string, outputVolts: number): LinearStage {
  return {
    id,
    from,
    kind: 'linear',
    name: 'Linear',
    outputVolts,
    minInput: 2.5,
    hysteresis: 0.1,
    maxInput: 16,
    dropoutVolts: 0,
    dropoutResistance: 0.6,
    quiescentCurrent: 60e-6,
    outputLimit: 0.5,
    thermalResistance: 90,
    maxJunction: 125,
    grade: 'assumed',
  };
}

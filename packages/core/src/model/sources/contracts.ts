import { Parts, Quantity } from '../fields.ts';
import { SourceBase } from './base.ts';

/** Volts a source can be asked for, and what it then gives; programmable where a least is stated. */
export class Offer {
  @Quantity('V', 1, 60, 'Volts; of programmable ones the highest')
  volts!: number;
  @Quantity('A', 0.01, 100, 'Current at most')
  amps!: number;
  @Quantity('V', 1, 60, 'Lowest volts of a programmable offer', { optional: true, label: 'From' })
  least?: number;
  @Quantity('V', 1e-3, 5, 'Step of a programmable offer', { optional: true, label: 'Step' })
  step?: number;
}

/** A source that several contracts can be had from, and what the trigger in front of the charger asks for. */
export class ContractSource extends SourceBase {
  declare kind: 'contracts';
  @Parts(() => Offer, [1, 12], 'What it offers')
  offers!: Offer[];
  @Quantity('V', 1, 60, 'Volts that are asked for', { label: 'Asked for' })
  asks!: number;
  @Quantity('Ω', 0, 100, 'Volts it droops per ampere', { label: 'Droop' })
  droop!: number;
}

declare module './registry.ts' {
  interface SourceTypes {
    contracts: ContractSource;
  }
}

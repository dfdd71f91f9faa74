import { Quantity } from '../fields.ts';
import { SourceBase } from './base.ts';

/** A supply or adapter of one voltage. */
export class SupplySource extends SourceBase {
  declare kind: 'supply';
  @Quantity('V', 0.5, 100, 'Volts with nothing connected', { label: 'Open volts' })
  volts!: number;
  @Quantity('Ω', 0, 100, 'Volts it droops per ampere', { label: 'Droop' })
  droop!: number;
  @Quantity('A', 1e-3, 1000, 'Current it gives at most', { label: 'Gives at most' })
  limit!: number;
}

declare module './registry.ts' {
  interface SourceTypes {
    supply: SupplySource;
  }
}

import { Parts, Quantity } from '../fields.ts';
import { SourceBase } from './base.ts';

/** Volts at a current, as measured on an adapter. */
export class SourceReading {
  @Quantity('A', 0, 1000, 'Current')
  amps!: number;
  @Quantity('V', 0.1, 100, 'Volts')
  volts!: number;
}

/** A plug adapter whose true curve comes from two or three readings. */
export class ReadSource extends SourceBase {
  declare kind: 'readings';
  @Parts(() => SourceReading, [2, 12], 'Readings at two loads or more')
  readings!: SourceReading[];
  @Quantity('A', 1e-3, 1000, 'Current on its label', { label: 'Gives at most' })
  limit!: number;
}

declare module './registry.ts' {
  interface SourceTypes {
    readings: ReadSource;
  }
}

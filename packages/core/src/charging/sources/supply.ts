import { SupplySource } from '../../model/sources/supply.ts';
import { formatQuantity } from '../../units/formatQuantity.ts';
import type { SourceKind } from './kind.ts';
import { straight } from './straight.ts';

/** A supply or adapter of one voltage. */
export const supply: SourceKind<SupplySource> = {
  kind: 'supply',
  model: SupplySource,
  label: 'one voltage',
  words: ({ volts, limit }) => `${formatQuantity(volts, 'V')} · ${formatQuantity(limit, 'A')}`,
  law: (source) => straight(source, { open: source.volts, droop: source.droop, limit: source.limit }),
  said: ({ volts, limit }) => ({ volts, amps: limit }),
  retold: (rest, { volts, amps }) => ({ ...rest, kind: 'supply', volts, droop: 0.1, limit: amps }),
  withCurve: (source, { open, droop }) => ({ ...source, volts: open, droop }),
};

import { issue } from '../../model/issue.ts';
import { ContractSource, Offer } from '../../model/sources/contracts.ts';
import { formatQuantity } from '../../units/formatQuantity.ts';
import type { SourceKind } from './kind.ts';
import { straight } from './straight.ts';

/** What a source offers at the volts asked for. */
export interface Contract {
  /** [V] [A] that it gives */
  volts: number;
  amps: number;
  /** whether that is what was asked for */
  asAsked: boolean;
}

/** Relative distance of volts that count as those asked for. */
const NEAR = 1e-6;

/**
 * What is had of a source for the volts asked: that offer, or a programmable one that reaches them, down to its step.
 * Where nobody offers them, the highest below, else its lowest offer. Common practice of triggers, no source.
 */
export function contractOf({ offers, asks }: Pick<ContractSource, 'offers' | 'asks'>): Contract {
  const fixed = offers.filter((o) => o.least === undefined);
  const exact = fixed.find((o) => Math.abs(o.volts - asks) <= NEAR * asks);
  if (exact) return { volts: exact.volts, amps: exact.amps, asAsked: true };
  const programmable = offers.find((o) => reaches(o, asks));
  if (programmable) {
    const { least = 0, step = 0, amps } = programmable;
    const volts = step > 0 ? least + step * Math.floor((asks - least) / step + NEAR) : asks;
    return { volts, amps, asAsked: true };
  }
  const below = offers.filter((o) => o.volts < asks).sort((a, b) => b.volts - a.volts)[0];
  const lowest = [...offers].sort((a, b) => a.volts - b.volts)[0]!;
  const had = below ?? lowest;
  return { volts: had.volts, amps: had.amps, asAsked: false };
}

function reaches({ volts, least }: Offer, asks: number): boolean {
  return least !== undefined && asks >= least * (1 - NEAR) && asks <= volts * (1 + NEAR);
}

/** A source that several contracts can be had from. */
export const contracts: SourceKind<ContractSource> = {
  kind: 'contracts',
  model: ContractSource,
  label: 'contracts',
  words: ({ asks }) => `asks for ${formatQuantity(asks, 'V')}`,
  issues: ({ offers }, at) =>
    offers.flatMap(({ least, volts }, k) =>
      least !== undefined && least > volts
        ? [issue('range', `${at}.offers[${k}].least`, least, `at most its volts (${volts})`)]
        : [],
    ),
  law: (source) => {
    const { volts, amps } = contractOf(source);
    return straight(source, { open: volts, droop: source.droop, limit: amps });
  },
  said: ({ asks, offers }) => ({ volts: asks, amps: offers[0]!.amps }),
  retold: (rest, { volts, amps }) => ({
    ...rest,
    kind: 'contracts',
    asks: volts,
    droop: 0.1,
    offers: [{ volts, amps }],
  }),
  withCurve: (source, { droop }) => ({ ...source, droop }),
  agreed: true,
  lists: [{ name: 'Offer', field: 'offers', model: Offer, fresh: () => ({ volts: 12, amps: 3 }) }],
};

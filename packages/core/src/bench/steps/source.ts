import { sourceLaw, sourceVolts } from '../../charging/source.ts';
import type { Source } from '../../model/sources/registry.ts';
import { droopWithin, OPEN } from '../within.ts';
import { around, MINUS, SOURCE, type StepKind } from './kind.ts';

const CAUTION = 'Mains adapters stay closed; only their low side is touched.';
const read = { part: 'charging', instrument: 'volts', unit: 'V' } as const;

/** [A] at which a source's droop is read: half of what it gives, as one says it. */
export function halfOf(source: Source): number {
  return Number((sourceLaw(source).limit / 2).toPrecision(2));
}

export const sourceOpen: StepKind = {
  ...read,
  name: 'source:open',
  reads: { openVolts: () => 'source:open' },
  shows: ({ doc: { charging } }) => (charging ? [['source:open', sourceLaw(charging.source).open]] : []),
  steps({ charging }) {
    if (!charging) return [];
    const { source } = charging;
    const { open } = sourceLaw(source);
    return [
      {
        id: 'source:open',
        title: `${source.name}, nothing on it`,
        how: 'Nothing connected: volts at its plug.',
        probes: [SOURCE, MINUS],
        predicted: around(open, OPEN * open),
        settles: 'Open volts of the source; with the next step its droop.',
        caution: CAUTION,
      },
    ];
  },
};

export const sourceHalf: StepKind = {
  ...read,
  name: 'source:half',
  reads: { openVolts: () => 'source:half', droop: () => 'source:half' },
  hands: { onSource: ({ charging }) => halfOf(charging!.source) },
  shows: ({ doc: { charging } }) =>
    charging ? [['source:half', sourceVolts(sourceLaw(charging.source), halfOf(charging.source))]] : [],
  steps({ charging }) {
    if (!charging) return [];
    const { source } = charging;
    const law = sourceLaw(source);
    const half = halfOf(source);
    const droop = droopWithin(source) * law.droop * half;
    return [
      {
        id: 'source:half',
        title: `${source.name} at ${half} A`,
        how: `A load of ${half} A on it, without the charger: volts at its plug.`,
        probes: [SOURCE, MINUS],
        predicted: around(sourceVolts(law, half), Math.max(droop, 0.01 * law.open)),
        settles: 'Droop of the source.',
        caution: CAUTION,
      },
    ];
  },
};

import { CUTOFF, TRIP } from '../within.ts';
import { around, MINUS, PACK, type StepKind } from './kind.ts';

export const cutoff: StepKind = {
  name: 'cutoff',
  part: 'protection',
  instrument: 'volts',
  unit: 'V',
  hands: { watched: true },
  reads: { cutoff: () => 'cutoff' },
  shows: ({ doc: { pack } }) =>
    pack.protection ? [['cutoff', pack.series * pack.protection.cutoffVolts]] : [],
  steps: ({ pack: { protection, series } }) =>
    protection
      ? [
          {
            id: 'cutoff',
            title: 'Cut-off, the board opens',
            how: 'A laboratory supply in the place of the cells, if the board lets you, or the nearly empty pack on a light load: pack volts at which it opens.',
            probes: [PACK, MINUS],
            predicted: around(series * protection.cutoffVolts, series * CUTOFF),
            settles: 'What is left in the cells when it stops.',
            caution: 'Not below what spoils the cells, and never unattended.',
          },
        ]
      : [],
};

export const trip: StepKind = {
  name: 'trip',
  part: 'protection',
  instrument: 'amps',
  unit: 'A',
  hands: { watched: true },
  reads: { trip: () => 'trip' },
  shows: ({ doc: { pack } }) => (pack.protection ? [['trip', pack.protection.tripCurrent]] : []),
  steps: ({ pack: { protection } }) =>
    protection
      ? [
          {
            id: 'trip',
            title: 'Trip, too much current',
            how: 'An electronic load behind the board, a tenth more every second: the current at which it opens. Then take the load off and see that it closes again.',
            probes: [PACK, PACK],
            predicted: around(protection.tripCurrent, TRIP * protection.tripCurrent),
            settles: 'Whether the board stands the peaks, and opens before the cells take harm.',
            caution: 'Not above what the cells, the leads and the fuse may carry: stop there, opened or not.',
          },
        ]
      : [],
};

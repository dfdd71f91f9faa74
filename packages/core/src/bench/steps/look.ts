import type { StepKind } from './kind.ts';

export const look: StepKind = {
  name: 'look',
  part: 'look',
  instrument: 'eyes',
  unit: '',
  steps: ({ pack }) => [
    {
      id: 'look',
      title: 'Look, polarity, continuity',
      how: `Nothing connected. Every one of the ${pack.series * pack.parallel} cells the same way round as drawn, no bare strip, no dent; ohms from each lead to the pole it belongs to, none between the poles of the loads.`,
      probes: [],
      settles: 'That nothing is destroyed by the first connection.',
      caution: 'A cell the wrong way round, or two leads swapped, can vent cells at once.',
    },
  ],
};

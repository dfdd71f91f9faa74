import { USUAL_TOLERANCES } from '../../model/belief.ts';
import { isConverter } from '../../model/kinds/registry.ts';
import { limitsOf } from '../../stages/limits.ts';
import { around, railOf, type StepKind } from './kind.ts';

/** Modules loaded in steps up to what is claimed of them. */
export const loadSteps: StepKind = {
  name: 'steps',
  part: 'load',
  instrument: 'amps',
  unit: 'A',
  hands: { watched: true },
  steps: ({ stages }) =>
    stages.filter(isConverter).flatMap((stage) => {
      const { output } = limitsOf(stage);
      if (!(output < Infinity)) return [];
      return [
        {
          id: `steps:${stage.id}`,
          title: `${stage.name}, load steps up to its limit`,
          how: 'An electronic load at its output, alone: in ten steps up to a fifth beyond the limit; the last current at which its volts are within 5 %.',
          probes: [railOf(stage.id), railOf(stage.id)] as const,
          predicted: around(output, USUAL_TOLERANCES[stage.grade] * output),
          settles: `What ${stage.name} really gives, and its losses on the way there.`,
          caution: 'Modules get hot beyond their claims: a finger beside it, not on it.',
        },
      ];
    }),
};

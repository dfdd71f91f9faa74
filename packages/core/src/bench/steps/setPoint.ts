import { isRegulated } from '../../model/kinds/registry.ts';
import { setWithin } from '../within.ts';
import { around, MINUS, railOf, type StepKind } from './kind.ts';

export const setPoint: StepKind = {
  name: 'set',
  part: 'setPoints',
  instrument: 'volts',
  unit: 'V',
  hands: { pack: 'full' },
  reads: { setPoint: (element) => `set:${element}` },
  shows: ({ doc }) => doc.stages.filter(isRegulated).map((s) => [`set:${s.id}`, s.outputVolts]),
  steps: ({ stages, loads }) =>
    stages.filter(isRegulated).map((stage) => {
      const behind = loads.filter((l) => l.from === stage.id);
      const most = Math.min(...behind.map((l) => l.range.max));
      return {
        id: `set:${stage.id}`,
        trims: stage.id,
        title: `${stage.name}, set point`,
        how: `Fed from the pack, ${behind.length > 0 ? `${behind.map((l) => l.name).join(', ')} not connected` : 'nothing connected'}: volts at its output.`,
        probes: [railOf(stage.id), MINUS] as const,
        predicted: around(stage.outputVolts, setWithin(stage)),
        settles: `Output volts of ${stage.name}, before anything hangs on it.`,
        ...(most < Infinity
          ? { caution: `Above ${most} V what hangs on it is not to be connected: set it first.` }
          : {}),
      };
    }),
};

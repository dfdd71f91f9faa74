import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import { MINUS, PACK, type StepKind } from './kind.ts';

export const runDown: StepKind = {
  name: 'run',
  part: 'run',
  instrument: 'clock',
  unit: 'h',
  shows: ({ run }) => [['run', run.usefulEnd.time / SECONDS_PER_HOUR]],
  steps: ({ loads }, found) =>
    loads.length === 0
      ? []
      : [
          {
            id: 'run',
            title: 'Run-down',
            how: 'Full to the end under its own loads, with a clock or a logger at the pack.',
            probes: [PACK, MINUS],
            predicted: found.get('run')!,
            settles: 'Everything together: what it cannot explain is in the steps before.',
            caution: 'On what does not burn, under watch; stop at the cell maker’s lowest volts.',
          },
        ],
};

import type { Pack } from '../../model/pack.ts';
import { cellTable } from '../../plant/cellTable.ts';
import type { Predicted } from '../step.ts';
import { MINUS, PACK, type StepKind } from './kind.ts';

/** Charge by which one that says it is full may be less, or more: a charger's own end. Common practice, no source. */
const FULL = 0.02;

/** [V] of so many cells in series at rest. */
function atRest({ cell, startSoc }: Pack, series: number): Predicted {
  const table = cellTable(cell);
  const at = (soc: number) => series * table.ocv(Math.min(1, Math.max(0, soc)));
  return { value: at(startSoc), p10: at(startSoc - FULL), p90: at(startSoc + FULL) };
}

const read = { part: 'cells', instrument: 'volts', unit: 'V', hands: { pack: 'full' } } as const;

export const openCell: StepKind = {
  ...read,
  name: 'open:cell',
  rests: () => 1,
  steps: ({ pack }) =>
    pack.series > 1
      ? [
          {
            id: 'open:cell',
            title: 'Each group, open',
            how: `Rested for an hour, nothing connected: each of the ${pack.series} groups by itself; write each down.`,
            probes: [{ at: 'cell' }, MINUS],
            predicted: atRest(pack, 1),
            settles: 'Charge at the start, and which group is out of step.',
          },
        ]
      : [],
};

export const openPack: StepKind = {
  ...read,
  name: 'open:pack',
  rests: ({ pack }) => pack.series,
  steps: ({ pack }) => [
    {
      id: 'open:pack',
      title: 'The pack, open',
      how: 'Rested for an hour, nothing connected: from pole to pole behind the protection.',
      probes: [PACK, MINUS],
      predicted: atRest(pack, pack.series),
      settles: 'Charge at the start, and that the board is closed.',
    },
  ],
};

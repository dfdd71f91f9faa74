import { NINETY } from '../../belief/firstOrder.ts';
import { PACK as PACK_PLACE } from '../../model/thread.ts';
import { readingOf } from '../../run/reading/reading.ts';
import { scheduleOf } from '../../run/timeline/schedule.ts';
import { formatDuration } from '../../units/formatQuantity.ts';
import { around, MINUS, PACK, railOf, type Shown, type StepKind } from './kind.ts';

/** [s] of the beginning in which dips are looked for, where nothing repeats. */
const BEGINNING = 600;

/** Lowest volts of each load with peaks while it draws, in the first cycle or the first minutes. */
function lowest({ doc, run }: Shown): [string, number][] {
  if (!doc.loads.some((l) => l.peaks?.length)) return [];
  const schedule = scheduleOf(doc);
  const until = Math.max(BEGINNING, schedule?.repeats ? schedule.period : 0);
  const reading = readingOf(run);
  return doc.loads.flatMap((load, l): [string, number][] => {
    if (!load.peaks?.length) return [];
    const [volts, amps] = [reading.load(l, 'volts'), reading.load(l, 'amps')];
    let least = Infinity;
    for (let row = 0; row <= reading.last && reading.time(row) <= until; row++)
      if (reading.at(row, amps) > 0) least = Math.min(least, reading.at(row, volts));
    return least < Infinity ? [[`dip:${load.id}`, least]] : [];
  });
}

/** Rails at the peaks of what hangs on them. */
export const dip: StepKind = {
  name: 'dip',
  part: 'load',
  instrument: 'volts',
  unit: 'V',
  hands: { watched: true },
  shows: lowest,
  steps: ({ loads }, found) =>
    loads.flatMap((load) => {
      const predicted = found.get(`dip:${load.id}`);
      if (!predicted) return [];
      const { value, p10, p90 } = predicted;
      const shortest = Math.min(...load.peaks!.map((p) => p.seconds));
      return [
        {
          id: `dip:${load.id}`,
          title: `${load.name}, lowest at its peak`,
          how: `The pack full, while ${load.name} draws its peak: the lowest volts where it is connected, with an oscilloscope or a meter that holds the least and is quicker than ${formatDuration(shortest / 3600)}.`,
          probes: [load.from === PACK_PLACE ? PACK : railOf(load.from), MINUS] as const,
          predicted: around(value, Math.max(0.01 * value, (p90 - p10) / NINETY)),
          settles: `Whether ${load.name} stays above ${load.range.min} V, and what leads and cells lose for that long.`,
        },
      ];
    }),
};

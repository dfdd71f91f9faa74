import { isRegulated } from '../../model/kinds/registry.ts';
import type { ThreadDocument } from '../../model/thread.ts';
import { setWithin } from '../within.ts';
import {
  around,
  MINUS,
  PACK,
  railOf,
  type Full,
  type Predictions,
  type Shown,
  type StepKind,
} from './kind.ts';

/** Most modes that get steps of their own: the ones that draw most. */
const MOST_MODES = 3;

/** Modes that are read under load, the lightest first, each with its words. */
export function heavyModes({ modes }: ThreadDocument, found: Predictions): { mode: string; as: string }[] {
  const drawn = (mode: string) => found.get(`draw:${mode}`)!.value;
  return (modes?.map((m) => m.id) ?? [''])
    .sort((a, b) => drawn(b) - drawn(a))
    .slice(0, MOST_MODES)
    .filter((mode) => drawn(mode) > 0)
    .reverse()
    .map((mode) => ({ mode, as: modes?.find((m) => m.id === mode)?.name ?? 'everything on' }));
}

/** What each mode shows, by an id that ends with it. */
function inEach(
  { doc, full }: Shown,
  of: (full: Full, mode: string) => [string, number][],
): [string, number][] {
  return (doc.modes?.map((m) => m.id) ?? [undefined]).flatMap((mode) => of(full(mode), mode ?? ''));
}

const read = { part: 'load', hands: { pack: 'full', loads: true } } as const;

export const draw: StepKind = {
  ...read,
  name: 'draw',
  instrument: 'amps',
  unit: 'A',
  shows: (seen) => inEach(seen, ({ amps }, mode) => [[`draw:${mode}`, amps]]),
  inMode: (_, found, mode, as) => [
    {
      id: `draw:${mode}`,
      title: `Pack current, ${as}`,
      how: `The pack full, ${as}: the ammeter in the positive lead; for peaks a clamp or the mean.`,
      probes: [PACK, PACK],
      predicted: found.get(`draw:${mode}`)!,
      settles: 'Draw of the loads and losses of the stages.',
    },
  ],
};

export const sag: StepKind = {
  ...read,
  name: 'sag',
  instrument: 'volts',
  unit: 'V',
  shows: (seen) => inEach(seen, ({ volts }, mode) => [[`sag:${mode}`, volts]]),
  inMode: (_, found, mode, as) => [
    {
      id: `sag:${mode}`,
      title: `Pack volts under it, ${as}`,
      how: 'In the first second of it: volts behind the protection; they sink on.',
      probes: [PACK, MINUS],
      predicted: found.get(`sag:${mode}`)!,
      settles: 'Resistance of cells, board and leads.',
    },
  ],
};

export const rail: StepKind = {
  ...read,
  name: 'rail',
  instrument: 'volts',
  unit: 'V',
  reads: { setPoint: (element) => `rail:${element}:` },
  shows: (seen) =>
    inEach(seen, ({ rails }, mode) => seen.doc.stages.map((s, k) => [`rail:${s.id}:${mode}`, rails[k]!])),
  inMode: ({ stages, loads }, found, mode, as) =>
    stages
      .filter(isRegulated)
      .filter((s) => loads.some((l) => l.from === s.id))
      .map((s) => ({
        id: `rail:${s.id}:${mode}`,
        title: `${s.name} under it, ${as}`,
        how: 'At the same time: volts where the load is connected.',
        probes: [railOf(s.id), MINUS] as const,
        predicted: around(found.get(`rail:${s.id}:${mode}`)!.value, setWithin(s)),
        settles: `That ${s.name} holds its volts there.`,
      })),
};

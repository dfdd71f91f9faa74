import type { Envelope, Figure, PeriodShape, Snapshot, Worth } from '@mile-thread/core';
import { MECHANISMS, type Stage, MODE_TABLE, namedWays } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { EMBERS } from '../../tokens/tokens.ts';
import { wayStates } from '../../drawing/schematic.ts';

/** The stage at a time of the run: straight between two snapshots while it works in one way, else the nearer one. */
export function instantOf({ snapshots }: Envelope, time: number): Snapshot | undefined {
  if (snapshots.length === 0) return undefined;
  let low = 0;
  let high = snapshots.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (snapshots[middle]!.time <= time) low = middle;
    else high = middle;
  }
  const a = snapshots[low]!;
  const b = snapshots[high]!;
  const span = b.time - a.time;
  const f = span > 0 ? Math.min(1, Math.max(0, (time - a.time) / span)) : 0;
  if (a.mode !== b.mode || !alike(a.period, b.period)) return f < 0.5 ? a : b;
  const mix = (x: number, y: number) => x + f * (y - x);
  const list = (x: number[], y: number[]) => x.map((v, k) => mix(v, y[k]!));
  const period =
    a.period && b.period ? { ...a.period, ...mixPeriod(a.period, b.period, mix, list) } : undefined;
  const hottest =
    a.hottest && b.hottest ? { ...a.hottest, celsius: mix(a.hottest.celsius, b.hottest.celsius) } : a.hottest;
  return {
    time: mix(a.time, b.time),
    vin: mix(a.vin, b.vin),
    vout: mix(a.vout, b.vout),
    iout: mix(a.iout, b.iout),
    iin: mix(a.iin, b.iin),
    mode: a.mode,
    losses: list(a.losses, b.losses),
    values: list(a.values, b.values),
    ...(period ? { period } : {}),
    ...(hottest ? { hottest } : {}),
  };
}

function alike(a: PeriodShape | undefined, b: PeriodShape | undefined): boolean {
  return a?.switching === b?.switching && a?.discontinuous === b?.discontinuous;
}

function mixPeriod(
  a: PeriodShape,
  b: PeriodShape,
  mix: (x: number, y: number) => number,
  list: (x: number[], y: number[]) => number[],
) {
  return {
    duty: mix(a.duty, b.duty),
    frequency: mix(a.frequency, b.frequency),
    share: list(a.share, b.share),
    current: list(a.current, b.current),
  };
}

/** Names of the losses as a reader of the schematic knows them, and the tone of their bar. */
export const LOSS_WORDS: Record<(typeof MECHANISMS)[number], { words: string; colour: string }> = {
  conversion: { words: 'conversion', colour: EMBERS[0] },
  conduction: { words: 'switches', colour: EMBERS[0] },
  copper: { words: 'inductor copper', colour: EMBERS[1] },
  core: { words: 'inductor core', colour: EMBERS[2] },
  rectifier: { words: 'rectifier', colour: EMBERS[7] },
  overlap: { words: 'switching edges', colour: EMBERS[3] },
  gate: { words: 'gates', colour: EMBERS[4] },
  capacitor: { words: 'capacitors', colour: EMBERS[5] },
  headroom: { words: 'headroom', colour: EMBERS[1] },
  both: { words: 'all four switching', colour: EMBERS[3] },
  quiescent: { words: 'quiescent', colour: EMBERS[6] },
};

/** Losses worth a place in the bar, in the order of the mechanisms' story. [W] */
export function lossParts(losses: readonly number[]): { words: string; colour: string; watts: number }[] {
  const order = [
    'conversion',
    'conduction',
    'copper',
    'core',
    'rectifier',
    'headroom',
    'overlap',
    'both',
    'gate',
    'capacitor',
    'quiescent',
  ] as const;
  const sum = losses.reduce((a, b) => a + b, 0);
  return order
    .map((name) => ({ ...LOSS_WORDS[name], watts: losses[MECHANISMS.indexOf(name)] ?? 0 }))
    .filter((p) => p.watts > 0.0005 * sum);
}

/** Figures a reader looks at first: least room left, and the ripples; the rest on demand. */
export function figuresShown(figures: readonly Figure[], all: boolean): number[] {
  const order = figures.map((_, k) => k);
  if (all) return order;
  const rated = order.filter((k) => figures[k]!.room !== undefined && !figures[k]!.id.endsWith('Volts'));
  if (figures.length <= 8) return order;
  const tightest = [...rated].sort((a, b) => figures[a]!.room! - figures[b]!.room!).slice(0, 5);
  const always = order.filter((k) =>
    ['inductorPeak', 'inductorRipple', 'outputRipple'].includes(figures[k]!.id),
  );
  const shown = new Set([...always, ...tightest]);
  for (const k of order) if (figures[k]!.room !== undefined && figures[k]!.room < 0.1) shown.add(k);
  return order.filter((k) => shown.has(k));
}

type WayName = 'a' | 'b' | 'c' | 'd';

/** What the stage does at the needle, in a sentence. */
export function deed(stage: Stage, s: Snapshot): string {
  const p = s.period;
  if (!p) return `${stage.name} ${MODE_TABLE[s.mode].phrase}`;
  const at = formatQuantity(p.frequency, 'Hz', 3);
  const duty = `duty ${(100 * p.duty).toFixed(0)} %`;
  const rest = p.discontinuous ? ', its current stops each period' : '';
  if (namedWays(stage).length < 4) return `switching at ${at}, ${duty}${rest}`;
  const states = wayStates(p.switching);
  const names = Object.fromEntries(namedWays(stage).map(({ way, name }) => [way, name])) as Record<
    WayName,
    string
  >;
  const who = (state: string) =>
    (Object.keys(names) as WayName[]).filter((k) => states[k] === state).map((k) => names[k]);
  const closed = who('closed');
  const turns = who('switching');
  if (turns.length === 4) return `all four switches take turns at ${at}; ${duty} of S1${rest}`;
  return `${closed.join(', ')} stays closed; ${turns.join(' and ')} take turns at ${at}: ${MODE_TABLE[s.mode].phrase}, ${duty}${rest}`;
}

/** What would add most to the run, in words. */
export function worthWords({ change, value }: Worth): string {
  switch (change) {
    case 'winding':
      return `with a winding of ${formatQuantity(value, 'Ω', 2)}`;
    case 'resistance':
      return 'with switches of half the Ω';
    case 'edges':
      return 'with edges half as long';
    case 'frequency':
      return `at ${formatQuantity(value, 'Hz', 2)}, 1½ × L`;
    case 'efficiency':
      return `if it were ${(100 * value).toFixed(0)} % efficient`;
    case 'quiescent':
      return 'with half the quiescent current';
  }
}

/** “buck 61 %, all four 9 %”. */
export function shares(list: readonly { word: string; share: number }[]): string {
  return list
    .filter((m) => m.share >= 0.005)
    .map((m) => `${m.word} ${Math.round(100 * m.share)} %`)
    .join(', ');
}

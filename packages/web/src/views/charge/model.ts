import {
  Reading,
  endsFull,
  LIMITS,
  phaseWord,
  type ChargeLimit,
  type ChargePhase,
  type ChargeResult,
  type Keeps,
} from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';

/** What flows at an instant of a charge. [V] [A] [W] */
export interface ChargeInstant {
  time: number;
  soc: number;
  cellVolts: number;
  restVolts: number;
  /** into one cell */
  cellAmps: number;
  packVolts: number;
  outVolts: number;
  outAmps: number;
  nodeVolts: number;
  inVolts: number;
  inAmps: number;
  sourceVolts: number;
  sourceAmps: number;
  /** junction's heat */
  heat: number;
  limit: ChargeLimit;
  /** what comes from the source, past its cable, out of the charger, into the pack, to its cells' terminals, and is kept */
  watts: { source: number; input: number; output: number; pack: number; cells: number; kept: number };
  /** what the loads take meanwhile */
  load: number;
}

const OWN = [
  'outVolts',
  'outAmps',
  'nodeVolts',
  'inVolts',
  'inAmps',
  'sourceVolts',
  'sourceAmps',
  'heat',
] as const satisfies Parameters<Reading['of']>[1][];

/** The instant under the needle: straight between rows. @param time [s] */
export function instantAt(doc: ThreadDocument, rows: Reading, time: number): ChargeInstant {
  const low = rows.rowAt(time);
  const high = Math.min(low + 1, rows.count - 1);
  const [t0, t1] = [rows.at(low, 'time'), rows.at(high, 'time')];
  const share = t1 > t0 ? Math.min(1, Math.max(0, (time - t0) / (t1 - t0))) : 0;
  const between = (of: (row: number) => number) => of(low) + share * (of(high) - of(low));
  const at = (c: Parameters<Reading['at']>[1]) => between((r) => rows.at(r, c));
  const own = Object.fromEntries(OWN.map((v) => [v, between((r) => rows.of(r, v))])) as Record<
    (typeof OWN)[number],
    number
  >;
  const { series, parallel } = doc.pack;
  const packVolts = at('packVolts');
  const intoPack = -at('packAmps');
  const cellAmps = -at('cellAmps');
  const cells = series * parallel;
  const meanwhile = doc.charging!.meanwhile;
  const pack = packVolts * intoPack;
  const output = own.outVolts * own.outAmps;
  const source = own.sourceVolts * own.sourceAmps;
  const input = own.inVolts * own.inAmps;
  return {
    time,
    soc: at('soc'),
    cellVolts: at('cellVolts'),
    restVolts: at('restVolts'),
    cellAmps,
    packVolts,
    ...own,
    limit: LIMITS[rows.of(low, 'limit')]!,
    watts: {
      source,
      input,
      output,
      pack,
      cells: at('cellVolts') * cellAmps * cells,
      kept: at('restVolts') * cellAmps * cells,
    },
    load:
      meanwhile === 'off'
        ? 0
        : meanwhile === 'path'
          ? Math.max(0, own.nodeVolts * (own.sourceAmps - own.inAmps) + Math.max(0, -pack))
          : Math.max(0, packVolts * own.outAmps - pack),
  };
}

/** A worded band over the plot: from and to [s]. */
export interface Band {
  from: number;
  to: number;
  word: string;
  kind: 'gentle' | 'steady' | 'held' | 'volts' | 'trouble' | 'over';
}

const KIND: Partial<Record<ChargePhase['limit'], Band['kind']>> = {
  precharge: 'gentle',
  current: 'steady',
  volts: 'volts',
  through: 'trouble',
  letsGo: 'trouble',
  lockOut: 'trouble',
};

/** Share of the plot below which a phase is not worded. */
const SLIM = 0.004;

/** Phases as bands; those that loads switch back and forth are one. @param end [s] right end of the plot */
export function bandsOf({ phases, end }: ChargeResult, until: number): Band[] {
  const bands: Band[] = [];
  for (const { limit, from, to } of phases) {
    const word = phaseWord(limit);
    const last = bands.at(-1);
    const slim = to - from < SLIM * until;
    if (last && (last.word === word || (slim && from - last.from > to - from))) last.to = to;
    else bands.push({ from, to, word, kind: KIND[limit] ?? 'held' });
  }
  const last = bands.at(-1);
  if (last) last.to = Math.min(end.time, until);
  if (endsFull(end.reason) && until > end.time) {
    bands.push({ from: end.time, to: until, word: '✓ ended', kind: 'over' });
  }
  return bands.filter((b) => b.from < until);
}

/** [s] Right end of the plot: the charge and a little more; of one that goes on for ever what tells. */
export function plotEnd({ end, to99, phases }: ChargeResult): number {
  if (end.reason !== 'never' && end.reason !== 'timer') return Math.max(1, 1.06 * end.time);
  const told = Math.max(to99 ?? 0, phases.at(-1)?.from ?? 0, 4 * 3600);
  return Math.min(end.time, Math.max(1.4 * told, 3600));
}

/** “never: the loads take more than it ends at” */
export const KEEPS_WORDS: Readonly<Record<Keeps, string>> = {
  load: 'the loads alone take more than it ends at',
  noEnd: 'nothing ends it',
  headroom: 'too few volts above the pack',
  heat: 'folded back for its heat',
  source: 'the source gives no more',
  letsGo: 'the source lets go',
  lockOut: 'the charger locks out',
  slow: 'too slow',
};

/** What ends a charge, in a word or two. */
export const END_REASON: Readonly<Record<ChargeResult['end']['reason'], string>> = {
  terminated: 'ends by itself',
  timer: 'stopped by its timer',
  prechargeTimer: 'given up while gentle',
  never: 'never ends',
  overCharged: 'over-charged',
  overVoltage: 'stopped by the board',
  cold: 'too cold to begin',
  hot: 'too hot to begin',
  drained: 'runs down instead',
  unfinished: 'not worked out to its end',
};

/** [V] by which the fullest group stands above the mean of all when the charge ends; 0 where they are alike. */
export function aboveMean({ groups, end }: ChargeResult): number {
  return groups ? Math.max(0, groups.volts[groups.fullest]! - end.cellVolts) : 0;
}

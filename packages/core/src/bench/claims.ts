import { lossFit, type ConverterRow } from '../logs/fits.ts';
import type { Edit } from '../model/edit.ts';
import { isConverter, type Converter } from '../model/kinds/registry.ts';
import type { LossPoint } from '../model/loss.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { outputLimitOf } from '../stages/limits.ts';

/** Share by which volts have fallen where a module has let go. Common practice, no source. */
export const LET_GO = 0.05;

/** A claim against what was found. */
export interface Claim {
  by: 'listing' | 'chip' | 'stage';
  /** [A] [W] */
  amps: number;
  watts: number;
  /** found over claimed, at most what the test reached */
  held: number;
}

/** What a stepped load test says of a module. */
export interface ModuleTest {
  /** [V] at the least current */
  open: number;
  /** last row before it let go, and [A] at which it did; absent where it never did */
  last: ConverterRow;
  letGo?: number;
  /** [W] [A] that it holds */
  watts: number;
  amps: number;
  claims: Claim[];
  /** rows up to there as points of a measured table */
  points: LossPoint[];
  /** [W] that loss is off the polynomial through the points, root of the mean square; absent of fewer than five */
  scatter?: number;
}

/** Rows at least. */
export const LEAST_ROWS = 3;

/**
 * Where a module lets go in a test of rising load, and what it holds against its listing and its chip: it has let go in the
 * first row whose volts are lower than those of the first by so many per cent, and in all behind it.
 * @param rows by rising output current @returns undefined of too few rows
 */
export function moduleTest(
  stage: Converter,
  rows: readonly ConverterRow[],
  share = LET_GO,
): ModuleTest | undefined {
  const rising = [...rows].sort((a, b) => a.outputAmps - b.outputAmps);
  if (rising.length < LEAST_ROWS) return undefined;
  const open = rising[0]!.outputVolts;
  const first = rising.findIndex((r) => r.outputVolts < (1 - share) * open);
  const good = first < 0 ? rising : rising.slice(0, first);
  const last = good.at(-1)!;
  const watts = last.outputVolts * last.outputAmps;
  const claim = (by: Claim['by'], amps: number): Claim[] =>
    amps < Infinity ? [{ by, amps, watts: amps * stage.outputVolts, held: last.outputAmps / amps }] : [];
  const points = good
    .filter((r) => r.inputAmps > 0)
    .map((r): LossPoint => ({
      inputVolts: round(r.inputVolts),
      outputAmps: round(Math.max(0, r.outputAmps)),
      inputAmps: round(r.inputAmps),
    }));
  return {
    open,
    last,
    ...(first < 0 ? {} : { letGo: rising[first]!.outputAmps }),
    watts,
    amps: last.outputAmps,
    claims: [
      ...claim('listing', outputLimitOf(stage.listing, stage.outputVolts)),
      ...claim('chip', outputLimitOf(stage.chip, stage.outputVolts)),
      ...claim('stage', stage.outputLimit ?? Infinity),
    ],
    points,
    ...(good.length >= 5 ? { scatter: lossFit(good).rms } : {}),
  };
}

const round = (v: number) => Number(v.toPrecision(5));

/** [A] the most that anybody claims of a module: its listing, its chip, the thread; an ampere where nobody says. */
export function claimedAmps({ listing, chip, outputLimit = Infinity, outputVolts }: Converter): number {
  const all = [outputLimitOf(listing, outputVolts), outputLimitOf(chip, outputVolts), outputLimit];
  const claimed = all.filter((a) => a < Infinity);
  return claimed.length > 0 ? Math.max(...claimed) : 1;
}

/** Edits that write what was found into the stage: its losses as a measured table, and the current it holds where it let go. */
export function takeTest(doc: ThreadDocument, id: string, test: ModuleTest): Edit[] {
  const stage = doc.stages.find((s) => s.id === id);
  if (!stage || !isConverter(stage) || test.points.length < 2) return [];
  const idle = test.points.find((p) => p.outputAmps < 1e-3)?.inputAmps;
  const value = {
    ...stage,
    ...(stage.parts ? { parts: { ...stage.parts, used: false } } : {}),
    loss: {
      basis: 'points' as const,
      quiescentCurrent: Math.min(1, idle ?? stage.loss.quiescentCurrent),
      points: test.points,
    },
    ...(test.letGo === undefined ? {} : { outputLimit: round(test.amps) }),
    grade: 'measured' as const,
  };
  return [{ op: 'replace', path: ['stages', id], value }];
}

import { socFromVoltage } from '../cells/socFromVoltage.ts';
import { worse, type Grade } from '../model/grade.ts';
import { isConverter } from '../model/kinds/registry.ts';
import { usesParts } from '../stages/switching.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { PackSource } from '../pack/source.ts';
import { MODES } from '../stages/point.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';
import type { Cycling, ModeInterval, RangeInterval, RunResult } from './result.ts';
import { LOAD_ROW, loadColumn, ROW, rowStride, stageColumn, STAGE_ROW, type Series } from './series.ts';

/** What a run noted on the way. */
export interface RunTrace {
  extended: Set<string>;
  cycling: Cycling[];
}

type Raw = Pick<
  RunResult,
  'series' | 'usefulEnd' | 'deadEnd' | 'ledger' | 'ledgerAtDead' | 'idle' | 'counts'
> & { trace: RunTrace };

/** Read the answers off the finished run. */
export function summarise(doc: ThreadDocument, source: PackSource, raw: Raw): RunResult {
  const { trace, ...rest } = raw;
  const { series } = rest;
  const stageModes: Record<string, ModeInterval[]> = {};
  doc.stages.forEach((s, k) => {
    stageModes[s.id] = stretches(series, stageColumn(k) + STAGE_ROW.mode, (m) => m).map(
      ({ from, to, value }) => ({ from, to, mode: MODES[value]! }),
    );
  });
  const loadRanges: Record<string, RangeInterval[]> = {};
  doc.loads.forEach((l, k) => {
    const volts = loadColumn(doc.stages.length, k) + LOAD_ROW.volts;
    const { min, max } = l.range;
    const state = (v: number) => (v < min * (1 - 1e-9) ? 0 : v > max * (1 + 1e-9) ? 2 : 1);
    loadRanges[l.id] = stretches(series, volts, state).map(({ from, to, value }) => ({
      from,
      to,
      state: (['low', 'in', 'high'] as const)[value]!,
    }));
  });
  const socAtUseful = socAt(series, rest.usefulEnd.time);
  const restEnd = socFromVoltage(source.ocv, doc.pack.cell.endVolts);
  const above = Math.max(0, source.ocv.integral(socAtUseful) - source.ocv.integral(restEnd));
  return {
    ...rest,
    leftBehind: above * source.charge * source.series * source.parallel,
    socAtUseful,
    worstCell: worstCell(series, rest.usefulEnd.time, source.charge / SECONDS_PER_HOUR),
    stageModes,
    loadRanges,
    cycling: trace.cycling,
    extended: [...trace.extended],
    ...grades(doc, trace.extended),
  };
}

function stretches(series: Series, column: number, read: (value: number) => number) {
  const stride = rowStride(series.stages, series.loads);
  const found: { from: number; to: number; value: number }[] = [];
  for (let r = 0; r < series.count; r++) {
    const time = series.data[r * stride]!;
    const value = read(series.data[r * stride + column]!);
    const last = found[found.length - 1];
    if (last) last.to = time;
    if (!last || last.value !== value) found.push({ from: time, to: time, value });
  }
  return found.filter((s, k) => s.to > s.from || k === found.length - 1);
}

function socAt(series: Series, time: number): number {
  const stride = rowStride(series.stages, series.loads);
  let soc = series.data[ROW.soc] ?? 0;
  for (let r = 0; r < series.count && series.data[r * stride]! <= time; r++) {
    soc = series.data[r * stride + ROW.soc]!;
  }
  return Math.max(0, soc);
}

function worstCell(series: Series, until: number, capacityAh: number) {
  const stride = rowStride(series.stages, series.loads);
  let amps = 0;
  let time = 0;
  for (let r = 0; r < series.count && series.data[r * stride]! <= until; r++) {
    const here = series.data[r * stride + ROW.cellAmps]!;
    if (here > amps) {
      amps = here;
      time = series.data[r * stride]!;
    }
  }
  return { amps, rate: amps / capacityAh, time };
}

function grades(doc: ThreadDocument, extended: Set<string>) {
  const from: { element: string; grade: Grade }[] = [{ element: 'cells', grade: doc.pack.cell.grade }];
  if (doc.pack.protection) from.push({ element: 'protection', grade: doc.pack.protection.grade });
  for (const s of doc.stages) {
    // Beyond its readings a table is a guess, whatever its readings were.
    const own = isConverter(s) && usesParts(s) ? worse(s.grade, s.parts!.grade) : s.grade;
    from.push({ element: s.id, grade: extended.has(s.id) ? worse(own, 'typical') : own });
  }
  for (const l of doc.loads) from.push({ element: l.id, grade: l.grade });
  const grade = from.reduce<Grade>((g, f) => worse(g, f.grade), 'measured');
  from.sort((a, b) => (a.grade === b.grade ? 0 : worse(a.grade, b.grade) === a.grade ? -1 : 1));
  return { grade, gradeFrom: from };
}

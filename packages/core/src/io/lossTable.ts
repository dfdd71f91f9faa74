import { outliersOf } from './outliers.ts';
import type { LossPoint } from '../model/loss.ts';
import { parseQuantity } from '../units/parseQuantity.ts';

/** Readings of a converter from a spreadsheet, with what is wrong with each line. */
export interface LossTable {
  points: LossPoint[];
  /** lines left out, and why */
  refused: { line: number; text: string; reason: string }[];
  /** points kept that stand out from their neighbours; index into `points` */
  outliers: { point: number; reason: string }[];
}

/** Names a column may have, in the words of bench notes. */
const COLUMNS: readonly [name: Column, pattern: RegExp][] = [
  ['inputAmps', /^(i\s*in|iin|in(put)?\s*(current|amps?)|input\s*\(?a\)?)/i],
  ['outputAmps', /^(i\s*out|iout|out(put)?\s*(current|amps?)|load|i\b)/i],
  ['outputVolts', /^(v\s*out|vout|out(put)?\s*(volts?|voltage))/i],
  ['inputVolts', /^(v\s*in|vin|in(put)?\s*(volts?|voltage)|v\b)/i],
  ['efficiency', /^(eff|η|eta)/i],
];
type Column = 'inputVolts' | 'outputAmps' | 'efficiency' | 'inputAmps' | 'outputVolts';

/** Readings that a table may hold, and lines refused after which the rest is not worth reading. */
const MOST_READINGS = 2000;
const MOST_REFUSED = 2000;

const UNITS: Record<Column, string> = {
  inputVolts: 'V',
  outputAmps: 'A',
  efficiency: '',
  inputAmps: 'A',
  outputVolts: 'V',
};

/**
 * Read a table's cells: one reading a line; a heading line names the columns (and may give mA or % in brackets),
 * else they are input volts, output current, efficiency.
 *
 * A reading that gives out more than it takes in is refused; one whose loss is far from the straight line between
 * its neighbours at the same input is kept and marked.
 * @param outputVolts [V] where the table has no column for it
 */
export function readLossTable(lines: readonly (readonly string[])[], outputVolts: number): LossTable {
  const table: LossTable = { points: [], refused: [], outliers: [] };
  let columns: (Column | undefined)[] = ['inputVolts', 'outputAmps', 'efficiency'];
  let scales = [1, 1, NaN];
  let first = true;
  for (const [k, raw] of lines.entries()) {
    const cells = raw.map((c) => c.trim());
    const line = cells.join('  ');
    if (line.trim() === '' || line.startsWith('#')) continue;
    if (first && cells.some((c) => /[a-zη]{2,}/i.test(c) && !/^[\d.,]/.test(c))) {
      columns = cells.map((c) => COLUMNS.find(([, pattern]) => pattern.test(c))?.[0]);
      scales = cells.map((c, n) => scaleOf(c, columns[n]));
      first = false;
      continue;
    }
    first = false;
    if (table.points.length === MOST_READINGS || table.refused.length === MOST_REFUSED) {
      const reason = `not looked at: a table holds at most ${MOST_READINGS} readings`;
      table.refused.push({ line: k + 1, text: `this and every line after it`, reason });
      break;
    }
    const read = readLine(cells, columns, scales, outputVolts);
    if (typeof read === 'string') table.refused.push({ line: k + 1, text: line.slice(0, 80), reason: read });
    else table.points.push(read);
  }
  const losses = table.points.map((p) => lossOf(p, outputVolts));
  table.outliers = outliersOf(table.points, losses).map(({ point, expected }) => ({
    point,
    reason: `loses ${watts(losses[point]!)} where its neighbours suggest ${watts(expected)}`,
  }));
  return table;
}

function scaleOf(heading: string, column: Column | undefined): number {
  if (/\(?\bmA\b|\[mA\]/.test(heading)) return 1e-3;
  if (/\(?\bmV\b/.test(heading)) return 1e-3;
  if (column === 'efficiency') return heading.includes('%') ? 0.01 : NaN;
  return 1;
}

function readLine(
  cells: readonly string[],
  columns: (Column | undefined)[],
  scales: number[],
  setVolts: number,
): LossPoint | string {
  const value: Partial<Record<Column, number>> = {};
  for (let n = 0; n < columns.length; n++) {
    const column = columns[n];
    const cell = cells[n];
    if (!column || cell === undefined || cell === '') continue;
    const percent = cell.endsWith('%');
    const parsed = parseQuantity(percent ? cell.slice(0, -1) : cell, UNITS[column]);
    if (!parsed.ok) return `“${cell}” is no number in ${UNITS[column] || 'per cent'}`;
    // An efficiency above 1.5 without a unit can only mean per cent.
    const scale = Number.isNaN(scales[n]!) ? (percent || parsed.value > 1.5 ? 0.01 : 1) : scales[n]!;
    value[column] = parsed.value * scale;
  }
  const { inputVolts, outputAmps, efficiency, inputAmps, outputVolts = setVolts } = value;
  if (inputVolts === undefined || outputAmps === undefined)
    return 'input volts and output current are needed';
  if (!(inputVolts > 0)) return 'input volts must be above zero';
  if (outputAmps < 0) return 'an output current below zero';
  const out = outputVolts * outputAmps;
  if (inputAmps !== undefined) {
    const into = inputVolts * inputAmps;
    if (into < out) {
      return `gives ${watts(out)} and takes ${watts(into)}: no converter gives more than it takes`;
    }
    return { inputVolts, outputAmps, inputAmps };
  }
  if (efficiency === undefined) return 'efficiency or input current is needed';
  if (efficiency > 1) return `an efficiency of ${percent(efficiency)}: no converter gives more than it takes`;
  if (efficiency <= 0.001) return 'an efficiency of zero gives nothing';
  if (outputAmps === 0) return 'an efficiency says nothing at no load: give the input current';
  return { inputVolts, outputAmps, efficiency };
}

const watts = (w: number) => `${Number(w.toPrecision(3))} W`;
const percent = (e: number) => `${Number((100 * e).toPrecision(4))} %`;

/** [W] */
function lossOf(p: LossPoint, volts: number): number {
  const out = volts * p.outputAmps;
  return p.efficiency !== undefined ? out / p.efficiency - out : p.inputAmps! * p.inputVolts - out;
}

import { separatorOf } from '@mile-thread/core/logs';
import Papa from 'papaparse';

/** Characters read at once, and of one line at most. */
const PIECE = 1 << 18;
const LONGEST = 100_000;

/** What a table may hold, in words for who brings more. */
export interface TableLimits {
  /** “readings”, “cells” */
  of: string;
  lines: number;
}

/**
 * The cells of a table, by pieces: what takes long gives way between them.
 * @param limits lines beyond them are not read, and told @throws Error in words where it is no table
 */
export function* cellsOf(
  text: string,
  delimiter: string = separatorOf(text),
  limits: TableLimits = { of: 'lines', lines: Infinity },
): Generator<number, string[][], undefined> {
  const rows: string[][] = [];
  let from = 0;
  while (from < text.length) {
    const to = endOfPiece(text, from, rows.length);
    const { data } = Papa.parse<string[]>(text.slice(from, to), { delimiter });
    // A piece ends with its line's end: what the parser makes of nothing behind it is no line.
    if (to < text.length && data.at(-1)?.join('') === '') data.pop();
    for (const row of data) rows.push(row);
    if (rows.length > limits.lines + 1)
      throw new Error(
        `It has more than ${limits.lines.toLocaleString('en')} lines; so many ${limits.of} at most are read. Nothing was taken: cut it into parts, or keep fewer lines.`,
      );
    from = to;
    yield from / text.length;
  }
  return rows;
}

/** Where a piece ends: behind a line's end that is in no quotes. */
function endOfPiece(text: string, from: number, lines: number): number {
  let to = from + PIECE;
  for (;;) {
    if (to >= text.length) {
      checkLines(text, from, text.length, lines);
      return text.length;
    }
    const end = text.lastIndexOf('\n', to) + 1;
    if (end > from && quotesIn(text, from, end) % 2 === 0) {
      checkLines(text, from, end, lines);
      return end;
    }
    const next = text.indexOf('\n', to) + 1;
    if (next === 0 || next - from > PIECE + LONGEST) return tooLong(lines);
    to = next;
    if (quotesIn(text, from, next) % 2 === 0) {
      checkLines(text, from, next, lines);
      return next;
    }
  }
}

function quotesIn(text: string, from: number, to: number): number {
  let count = 0;
  for (let at = text.indexOf('"', from); at >= 0 && at < to; at = text.indexOf('"', at + 1)) count++;
  return count;
}

function checkLines(text: string, from: number, to: number, lines: number): void {
  for (let at = from; at < to;) {
    const end = text.indexOf('\n', at);
    const stop = end < 0 || end > to ? to : end;
    if (stop - at > LONGEST) return void tooLong(lines);
    at = stop + 1;
  }
}

function tooLong(lines: number): never {
  throw new Error(
    `Behind line ${Math.max(1, lines)} a line is longer than ${LONGEST.toLocaleString('en')} characters: that is no table. Nothing was taken.`,
  );
}

/** Cells of a table that a person drops; empty lines are left out. */
export function* table(text: string, limits: TableLimits): Generator<number, string[][], undefined> {
  const rows = yield* cellsOf(text.trim(), undefined, limits);
  return rows.filter((row) => row.some((cell) => cell.trim() !== ''));
}

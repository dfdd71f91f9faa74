import type { Issue, Outcome } from '../model/issue.ts';

/** How a column of time is written: numbers of a unit, `hh:mm:ss`, or dates with a time of day. */
export const TIME_FORMS = ['ms', 's', 'min', 'h', 'clock', 'date'] as const;
export type TimeForm = (typeof TIME_FORMS)[number];
export const VOLT_UNITS = ['V', 'mV'] as const;
export const AMP_UNITS = ['A', 'mA'] as const;

/** Which column of a log is what, and in which unit; columns from 0. */
export interface LogColumns {
  time: { column: number; form: TimeForm };
  volts: { column: number; unit: (typeof VOLT_UNITS)[number] };
  /** absent where no current was logged */
  amps?: { column: number; unit: (typeof AMP_UNITS)[number] };
}

/** What parts the fields of a log: never a comma where something else does, as that may be the decimal sign. */
export function separatorOf(text: string): string {
  const lines = text.slice(0, 20_000).split(/\r?\n/);
  const first = lines.filter((l) => l.trim() !== '' && !l.startsWith('#')).slice(0, 6);
  const parts = (s: string) => first.every((l) => l.includes(s));
  return [';', '\t', '|', ','].find((s) => first.length > 0 && parts(s)) ?? ',';
}

/** The lines of a log as they stand, cut into fields: its heading, and the lines of numbers with their place in the file. */
export interface LogLines {
  heads: string[];
  rows: string[][];
  /** line of each row in the file, from 1 */
  places: number[];
}

/**
 * Where the numbers begin: behind the first line that is all words. Empty lines and comments are passed over.
 * @param file fields of every line of the file
 */
export function logLines(file: string[][]): LogLines {
  const lines = file
    .map((fields, k) => ({ fields, place: k + 1 }))
    .filter(({ fields: [first = '', ...more] }) => {
      return !first.startsWith('#') && (first.trim() !== '' || more.some((f) => f.trim() !== ''));
    });
  const words = (fields: string[]) =>
    fields.length > 1 && fields.every((f) => Number.isNaN(scaledOf(f, 'V')));
  const head = lines.findIndex(({ fields }) => words(fields));
  const rows = lines.slice(head + 1);
  const heads = head < 0 ? (lines[0]?.fields ?? []).map((_, k) => `column ${k + 1}`) : lines[head]!.fields;
  return {
    heads: heads.map((h) => h.trim()),
    rows: rows.map((r) => r.fields),
    places: rows.map((r) => r.place),
  };
}

const NAMES = {
  time: /time|zeit|temps|tiempo|tempo|date|datum|stamp|elapsed|hh:mm|^(t|ms|s|sec|min|h)\b/i,
  volts: /volt|spannung|tension|tensi[oó]n|voltage|^[uv]([ _/([]|$)| m?v$/i,
  amps: /curr|strom|courant|corriente|corrente|\bamp|^i([ _/([]|$)|\ba$/i,
};

/** The unit a heading names: in brackets, or behind a space, a slash or an underscore. */
function unitIn<U extends string>(head: string, units: readonly U[]): U | undefined {
  const words = head.split(/[\s()[\]/_,]+/);
  return (
    units.find((u) => words.includes(u)) ??
    units.find((u) => words.some((w) => w.toLowerCase() === u.toLowerCase()))
  );
}

/** Which column each is by its heading; −1 where none names it. */
function named({ heads }: LogLines): Record<'time' | 'volts' | 'amps', number> {
  const taken: number[] = [];
  const of = (what: keyof typeof NAMES) => {
    const found = heads.findIndex((h, k) => !taken.includes(k) && NAMES[what].test(h));
    taken.push(found);
    return found;
  };
  return { time: of('time'), volts: of('volts'), amps: of('amps') };
}

/** The columns as far as they can be told; those that cannot are the first that are left, for a person to set right. */
export function likelyColumns(lines: LogLines): Required<LogColumns> {
  const { heads, rows } = lines;
  const by = named(lines);
  const left = heads.map((_, k) => k).filter((k) => !Object.values(by).includes(k));
  const place = (found: number) => (found >= 0 ? found : (left.shift() ?? 0));
  const [time, volts, amps] = [place(by.time), place(by.volts), place(by.amps)];
  return {
    time: { column: time, form: timeForm(heads[time] ?? '', rows[0]?.[time] ?? '') },
    volts: { column: volts, unit: unitIn(heads[volts] ?? '', VOLT_UNITS) ?? 'V' },
    amps: { column: amps, unit: unitIn(heads[amps] ?? '', AMP_UNITS) ?? 'A' },
  };
}

/**
 * What the columns are by their headings and first lines.
 * @param needs whether there must be a current @returns what could not be told as issues
 */
export function guessColumns(lines: LogLines): Outcome<Required<LogColumns>>;
export function guessColumns(lines: LogLines, needs: 'current' | 'volts'): Outcome<LogColumns>;
export function guessColumns(lines: LogLines, needs: 'current' | 'volts' = 'current'): Outcome<LogColumns> {
  const { time, volts, amps } = named(lines);
  const missing = Object.entries({ time, volts, ...(needs === 'current' ? { current: amps } : {}) }).filter(
    ([, k]) => k < 0,
  );
  if (missing.length === 0) {
    const { amps: current, ...rest } = likelyColumns(lines);
    return { ok: true, value: amps < 0 ? rest : { ...rest, amps: current } };
  }
  const given = lines.heads.join(', ').slice(0, 60);
  const issues = missing.map(([what]): Issue => ({
    code: 'missing',
    path: `column of ${what}`,
    given: given || 'nothing',
    allowed: `a heading that names it, such as ${EXAMPLE[what]!}; or say which column it is`,
  }));
  return { ok: false, issues };
}

const EXAMPLE: Record<string, string> = { time: 'time (s)', volts: 'U (V)', current: 'I (mA)' };

function timeForm(head: string, first: string): TimeForm {
  if (/\d{4}-\d\d-\d\d|\d[./]\d{1,2}[./]\d{4}/.test(first)) return 'date';
  if (/^\d+:\d\d/.test(first.trim())) return 'clock';
  return unitIn(head, ['ms', 's', 'min', 'h'] as const) ?? 's';
}

/** A number with either decimal sign; NaN where it is none. */
export function numberOf(text: string): number {
  const field = text.trim();
  if (field === '') return NaN;
  // Of both signs the last is the decimal one, the others part thousands.
  const comma = field.lastIndexOf(',') > field.lastIndexOf('.');
  return Number(comma ? field.replace(/\./g, '').replace(',', '.') : field.replace(/,/g, ''));
}

/** What a prefix before a unit makes of it. */
const PREFIXES: Readonly<Record<string, number>> = { '': 1, m: 1e-3, µ: 1e-6, μ: 1e-6, u: 1e-6, k: 1e3 };

/** [V or A] of a field in a unit of its column, or in the one written behind it: `3,71`, `3710 mV`, `0.5A`. NaN where it is none. */
export function scaledOf(text: string, unit: 'V' | 'mV' | 'A' | 'mA'): number {
  const own = /^(.*[\d.])\s*([mµμuk]?)(V|A)$/i.exec(text.trim());
  if (!own) return numberOf(text) * (unit.startsWith('m') ? 1e-3 : 1);
  return numberOf(own[1]!) * PREFIXES[own[2]!.toLowerCase()]!;
}

/** A date as ISO 8601 has it; those of the day first with dots, of the month first with slashes. */
function isoOf(text: string): string {
  const [, day, month, year, rest] = /^(\d{1,2})\.(\d{1,2})\.(\d{4})[ T,]+(.*)$/.exec(text) ?? [];
  if (year) return `${year}-${month!.padStart(2, '0')}-${day!.padStart(2, '0')}T${timeOf(rest!)}`;
  const [, m, d, y, hours] = /^(\d{1,2})\/(\d{1,2})\/(\d{4})[ T,]+(.*)$/.exec(text) ?? [];
  if (y) return `${y}-${m!.padStart(2, '0')}-${d!.padStart(2, '0')}T${timeOf(hours!)}`;
  return text.replace(' ', 'T');
}

/** `9:05` as `09:05:00`. */
function timeOf(text: string): string {
  const parts = text.trim().split(':');
  return [...parts, ...(parts.length === 2 ? ['00'] : [])].map((p) => p.padStart(2, '0')).join(':');
}

/** Whether a date says in which zone it is. */
export function hasZone(text: string): boolean {
  return /(Z|[+-]\d\d:?\d\d)$/.test(text.trim());
}

/** [s] of a field of time; NaN where it is none. */
export function secondsOf(text: string, form: TimeForm): number {
  if (form === 'date') {
    const date = isoOf(text.trim());
    // Without a zone all of one log is in the same: none is added.
    return Date.parse(hasZone(date) ? date : `${date}Z`) / 1000;
  }
  if (form === 'clock') {
    const parts = text.trim().split(':').map(numberOf);
    return parts.length < 2 || parts.length > 3
      ? NaN
      : parts.reduce((sum, p) => 60 * sum + p, 0) * (parts.length === 2 ? 60 : 1);
  }
  return numberOf(text) * { ms: 1e-3, s: 1, min: 60, h: 3600 }[form];
}

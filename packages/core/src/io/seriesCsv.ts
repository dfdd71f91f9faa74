import type { ThreadDocument } from '../model/thread.ts';
import { MODES } from '../stages/modes.ts';
import { defused } from './formula.ts';
import { LIMITS } from '../charging/limits.ts';
import {
  CHARGE_ROW,
  chargerColumn,
  rowStride,
  stageColumn,
  STAGE_ROW,
  type Series,
} from '../run/account/series.ts';

/** The run as CSV: comma, decimal point, units in the header, one row an instant, CRLF as RFC 4180 asks. */
export function seriesCsv(doc: ThreadDocument, series: Series): string {
  // Loads that are off while the pack is charged have no columns.
  const own = series.stages === doc.stages.length;
  const stages = (own ? doc.stages : []).flatMap((s) =>
    ['in (V)', 'in (A)', 'out (V)', 'out (A)', 'mode'].map((n) => `${s.name} ${n}`),
  );
  const loads = (own ? doc.loads : []).flatMap((l) => [`${l.name} (V)`, `${l.name} (A)`]);
  const fixed = [
    'time (s)',
    'state of charge',
    'cell (V)',
    'cell at rest (V)',
    'cell (A)',
    'pack (V)',
    'pack (A)',
  ];
  const charger = series.charger ? CHARGER : [];
  const limit = chargerColumn(series.stages, series.loads) + CHARGE_ROW.limit;
  const modes = new Set(doc.stages.map((_, k) => stageColumn(k) + STAGE_ROW.mode));
  const stride = rowStride(series);
  const lines = [[...fixed, ...stages, ...loads, ...charger].map(quoted).join(',')];
  for (let r = 0; r < series.count; r++) {
    const row = Array.from(series.data.subarray(r * stride, (r + 1) * stride));
    lines.push(
      row
        .map((v, c) =>
          modes.has(c) ? MODES[v]! : c === limit ? LIMITS[v]! : String(Number(v.toPrecision(8))),
        )
        .join(','),
    );
  }
  return `${lines.join('\r\n')}\r\n`;
}

/** Columns of a charger; see `CHARGE_ROW`. */
const CHARGER = [
  'charger out (V)',
  'charger out (A)',
  'cable end (V)',
  'charger in (V)',
  'charger in (A)',
  'source (V)',
  'source (A)',
  'supplied (W)',
  'charger heat (W)',
  'limit',
];

function quoted(text: string): string {
  const safe = defused(text);
  return /[",\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
}

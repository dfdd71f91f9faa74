import { issue, type Issue } from '../model/issue.ts';
import { MOST_GRADED, type BenchCell } from '../model/readings.ts';
import { parseQuantity } from '../units/parseQuantity.ts';

/** Names that columns of a table of cells may have. */
const COLUMNS = [
  ['id', /^(id|no|nr|num|cell|label|#)/i, ''],
  ['capacityAh', /cap|ah\b/i, 'Ah'],
  ['ohms', /res|ohm|Ω|esr|^ri\b/i, 'Ω'],
  ['lostVolts', /lost|leak|sink|drop/i, 'V'],
  ['restVolts', /rest|ocv|volt|^v\b/i, 'V'],
] as const;

/** Cells of a table: a line each, columns by their names, units behind the numbers or in the heads (`Ah`, `mΩ`, `mV`). */
export function gradedFrom(rows: readonly (readonly string[])[]): { cells: BenchCell[]; issues: Issue[] } {
  const heads = (rows[0] ?? []).map((h) => h.trim());
  const taken = new Set<number>();
  const columns = COLUMNS.map(([name, pattern, unit]) => {
    const k = heads.findIndex((h, i) => !taken.has(i) && pattern.test(h));
    taken.add(k);
    // A unit that the head names: of the same kind, perhaps with a prefix.
    const own = k < 0 ? undefined : /(mAh|Ah|mΩ|mohm|Ω|ohm|mV|V)\b|mΩ|Ω/.exec(heads[k]!)?.[0];
    return { name, k, unit, head: own?.replace('ohm', 'Ω') ?? unit };
  });
  const id = columns[0]!.k;
  if (id < 0 || columns[1]!.k < 0) {
    const given = heads.join(', ').slice(0, 60);
    return { cells: [], issues: [issue('missing', 'line 1', given, 'the columns cell and capacity')] };
  }
  const cells: BenchCell[] = [];
  const issues: Issue[] = [];
  rows.slice(1).forEach((row, r) => {
    const name = row[id]?.trim().slice(0, 20) ?? '';
    if (name === '') return;
    const line = `line ${r + 2}`;
    if (cells.some((c) => c.id === name))
      return void issues.push(issue('reference', line, name, 'a number once'));
    if (cells.length >= MOST_GRADED)
      return void issues.push(issue('range', line, name, `at most ${MOST_GRADED} cells`));
    const cell: BenchCell = { id: name };
    for (const { name: field, k, unit, head } of columns.slice(1)) {
      const text = row[k]?.trim() ?? '';
      if (k < 0 || text === '') continue;
      const bare = /[a-zΩ]/i.test(text) ? text : `${text} ${head}`;
      const read = parseQuantity(bare, unit);
      if (read.ok) cell[field as 'ohms'] = read.value;
      else issues.push(issue('type', line, text, `a quantity in ${unit}`));
    }
    cells.push(cell);
  });
  return { cells, issues };
}

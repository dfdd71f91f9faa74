import { backupIssues, chargingIssues } from './chargingChecks.ts';
import { issue, type Issue } from './issue.ts';
import type { CellRecord } from './cell.ts';
import { groupsOf, windowOf } from './group.ts';
import { relationIssues } from './stageChecks.ts';
import { PACK, type ThreadDocument } from './thread.ts';
import { workIssues } from './workChecks.ts';

/** What no single field can tell: references, tables that must rise, values that must fit each other. */
export function crossChecks(doc: ThreadDocument): Issue[] {
  return [
    ...references(doc),
    ...cellIssues(doc.pack.cell, 'pack.cell'),
    ...groupIssues(doc),
    ...gaugeIssues(doc),
    ...relations(doc),
    ...workIssues(doc),
    ...chargingIssues(doc),
    ...backupIssues(doc),
    ...measuredIssues(doc),
  ];
}

/** Curves of one length whose time rises; numbers of graded cells once each. */
function measuredIssues({ curves = [], graded = [] }: ThreadDocument): Issue[] {
  const found: Issue[] = [];
  curves.forEach(({ seconds, volts, amps }, k) => {
    const at = `curves[${k}]`;
    const lengths = [volts.length, amps?.length ?? volts.length];
    if (lengths.some((n) => n !== seconds.length))
      found.push(
        issue('range', at, `${seconds.length}, ${lengths.join(', ')} values`, 'lists of one length'),
      );
    const back = seconds.findIndex((s, i) => i > 0 && !(s > seconds[i - 1]!));
    if (back > 0) found.push(issue('range', `${at}.seconds[${back}]`, seconds[back], 'times that rise'));
  });
  const seen = new Set<string>();
  graded.forEach(({ id }, k) => {
    if (seen.has(id)) found.push(issue('reference', `graded[${k}].id`, id, 'a number no other cell has'));
    seen.add(id);
  });
  return found;
}

function references(doc: ThreadDocument): Issue[] {
  const found: Issue[] = [];
  const parent = new Map(doc.stages.map((s) => [s.id, s.from]));
  const seen = new Set<string>();
  const places = [
    ...doc.stages.map((s, k) => ({ path: `stages[${k}]`, ...s })),
    ...doc.loads.map((l, k) => ({ path: `loads[${k}]`, ...l })),
  ];
  for (const { path, id, from } of places) {
    if (seen.has(id)) found.push(issue('reference', `${path}.id`, id, 'an id no other stage or load has'));
    seen.add(id);
    if (from !== PACK && !parent.has(from)) {
      found.push(issue('reference', `${path}.from`, from, '`pack` or the id of a stage in this thread'));
    }
  }
  doc.stages.forEach((stage, k) => {
    let at: string | undefined = stage.from;
    for (let hops = 0; at !== undefined && at !== PACK; hops++) {
      if (hops > doc.stages.length) {
        found.push(
          issue('reference', `stages[${k}].from`, stage.from, 'a place that leads back to the pack'),
        );
        break;
      }
      at = parent.get(at);
    }
  });
  return found;
}

/** What the tables of a cell owe each other. @param at path of the cell, for the messages */
export function cellIssues(cell: CellRecord, at: string): Issue[] {
  const found: Issue[] = temperatureTables(cell, `${at}.temperature`);
  const table = (path: string, soc: number[], ...columns: [string, number[]][]) => {
    const rises = soc.every((s, k) => k === 0 || s > soc[k - 1]!);
    if (!rises || soc[0] !== 0 || soc[soc.length - 1] !== 1) {
      found.push(issue('range', `${at}.${path}.soc`, soc, 'states of charge that rise from 0 to 1'));
    }
    for (const [name, values] of columns) {
      if (values.length !== soc.length) {
        const allowed = `as many values as states of charge (${soc.length})`;
        found.push(issue('range', `${at}.${path}.${name}`, `${values.length} values`, allowed));
      }
    }
  };
  table('ocv', cell.ocv.soc, ['volts', cell.ocv.volts]);
  table('r0', cell.r0.soc, ['ohms', cell.r0.ohms]);
  cell.branches.forEach((b, k) => table(`branches[${k}]`, b.soc, ['ohms', b.ohms], ['farads', b.farads]));
  if (cell.ocv.volts.some((v, k) => k > 0 && v < cell.ocv.volts[k - 1]!)) {
    found.push(issue('range', `${at}.ocv.volts`, cell.ocv.volts, 'volts that never fall as charge rises'));
  }
  if (!(cell.damageVolts <= cell.endVolts && cell.endVolts < cell.fullVolts)) {
    const given = `${cell.damageVolts}, ${cell.endVolts}, ${cell.fullVolts}`;
    found.push(issue('range', `${at}.endVolts`, given, 'damage ≤ end < full volts'));
  }
  return found;
}

/** Tables over temperature rise and are complete; resistance is given once. */
function temperatureTables({ temperature }: CellRecord, at: string): Issue[] {
  const found: Issue[] = [];
  for (const name of ['resistance', 'capacity'] as const) {
    const table = temperature?.[name];
    if (!table) continue;
    const { celsius, factors } = table;
    if (celsius.some((t, k) => k > 0 && t <= celsius[k - 1]!)) {
      found.push(issue('range', `${at}.${name}.celsius`, celsius, 'temperatures that rise'));
    }
    if (factors.length !== celsius.length) {
      const allowed = `as many factors as temperatures (${celsius.length})`;
      found.push(issue('range', `${at}.${name}.factors`, `${factors.length} values`, allowed));
    }
  }
  if (temperature?.resistance && temperature.activation !== undefined) {
    const allowed = 'nothing, since a table of the resistance is given: one of both';
    found.push(issue('range', `${at}.activation`, temperature.activation, allowed));
  }
  return found;
}

/** Least share of a cell's charge that groups must be able to pass together. */
const LEAST_WINDOW = 1e-3;

/**
 * Either groups differ or cells within each, and groups have something to pass together. Groups and odd cells beyond those
 * there are wait until there are more.
 */
function groupIssues({ pack }: ThreadDocument): Issue[] {
  const { groups, odd } = pack;
  if (!groups) return [];
  const found: Issue[] = [];
  if (odd) {
    const allowed = 'nothing, since groups are said to differ: either groups, or cells within each';
    found.push(issue('range', 'pack.odd', 'odd cells', allowed));
  }
  if (windowOf(groupsOf(pack)!).width < LEAST_WINDOW) {
    const given = 'one empty, another full at the start';
    found.push(issue('range', 'pack.groups', given, 'groups that can pass some charge together'));
  }
  return found;
}

/** What a gauge tells apart rises, and it has what its kind needs. */
function gaugeIssues({ pack: { gauge } }: ThreadDocument): Issue[] {
  if (!gauge) return [];
  const found: Issue[] = [];
  if (gauge.levels.some((l, k) => k > 0 && l <= gauge.levels[k - 1]!)) {
    found.push(issue('range', 'pack.gauge.levels', gauge.levels, 'levels that rise'));
  }
  const needed = gauge.kind === 'ladder' ? 'string' : 'bits';
  if (gauge[needed] === undefined) {
    const allowed = gauge.kind === 'ladder' ? 'the whole string, since comparators tell the level' : 'bits';
    found.push(issue('missing', `pack.gauge.${needed}`, undefined, allowed));
  }
  return found;
}

function relations(doc: ThreadDocument): Issue[] {
  const found: Issue[] = [];
  doc.loads.forEach((load, k) => {
    const { min, max } = load.range;
    if (min >= max) found.push(issue('range', `loads[${k}].range.min`, min, `less than range.max (${max})`));
    if (load[load.draw] === undefined) {
      const allowed = `a value, since the load draws constant ${load.draw}`;
      found.push(issue('missing', `loads[${k}].${load.draw}`, undefined, allowed));
    }
    if (load.draw === 'string' && load.slope === undefined) {
      found.push(
        issue('missing', `loads[${k}].slope`, undefined, 'a value, since the load is a string of LEDs'),
      );
    }
  });
  doc.stages.forEach((stage, k) => found.push(...relationIssues(stage, `stages[${k}]`)));
  return found;
}

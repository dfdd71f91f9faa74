import { cases, draws, range } from './questions/belief.ts';
import { curvesOver, explanation, loggedFile, matched, plan, schools, stranded } from './questions/bench.ts';
import { backup, backupChecks, holdField, joins, years } from './questions/backup.ts';
import { budget, cycle, worst } from './questions/doings.ts';
import { cellCurves, cellFiles, readLogs } from './questions/cells.ts';
import { charge, chargeChecks, sources, stations } from './questions/charges.ts';
import { dividers } from './questions/dividers.ts';
import { records, threadFiles } from './questions/files.ts';
import { filter } from './questions/filter.ts';
import { gauge } from './questions/gauge.ts';
import { held, rowsCsv } from './questions/held.ts';
import { inductors } from './questions/inductors.ts';
import { library } from './questions/library.ts';
import { lossTable } from './questions/lossTable.ts';
import { map } from './questions/map.ts';
import { circuit, pathCircuit } from './questions/netlists.ts';
import { parts } from './questions/parts.ts';
import { reach } from './questions/reach.ts';
import { table } from './questions/tables.ts';
import { size } from './questions/size.ts';

/** Questions that no first picture waits for, by their names: a file of their own. */
export const seldom = {
  backup,
  backupChecks,
  budget,
  cases,
  cellCurves,
  cellFiles,
  charge,
  chargeChecks,
  circuit,
  curvesOver,
  cycle,
  dividers,
  draws,
  explanation,
  filter,
  gauge,
  held,
  holdField,
  inductors,
  joins,
  library,
  loggedFile,
  lossTable,
  map,
  matched,
  parts,
  range,
  reach,
  pathCircuit,
  plan,
  readLogs,
  records,
  rowsCsv,
  schools,
  size,
  sources,
  stations,
  stranded,
  table,
  threadFiles,
  worst,
  years,
};

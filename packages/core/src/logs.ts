/** Logs of a discharge, and the cell they tell. */
export {
  AMP_UNITS,
  guessColumns,
  likelyColumns,
  logLines,
  separatorOf,
  TIME_FORMS,
  VOLT_UNITS,
  type LogColumns,
  type LogLines,
  type TimeForm,
} from './logs/columns.ts';
export { readLog, sumOf, type Log, type LogSum, type ReadLog } from './logs/log.ts';
export { thinned, ThinnedRows, type RecordedRow } from './logs/thin.ts';
export type { LogNote } from './logs/mend.ts';
export { inverseOf, lossFit, socFromRest, type ConverterRow, type Rested, type Told } from './logs/fits.ts';
export { fromDischarges, type CellCurves, type Discharge } from './logs/discharges.ts';
export { recordFrom } from './logs/record.ts';
export { LOG_KINDS, logFigures, type LogFigure, type LogKind } from './logs/single.ts';

/** The document: classes, decoding, edits, records, and every kind of stage. */
import './stages/kinds/registry.ts';

export { CELL_LIBRARY } from './cells/library.ts';
export { typicalTemperature, typicalWarmth } from './cells/temperature.ts';
export { AGED, LATER, Belief, FigureTolerance, GradeTolerances, USUAL_TOLERANCES } from './model/belief.ts';
export {
  BoardBox,
  CylinderBody,
  MOST_BOARDS,
  Packing,
  PouchBody,
  USUAL_PACKING,
  type Body,
} from './model/body.ts';
export {
  BenchCell,
  BenchCurve,
  BenchReading,
  MOST_CURVES,
  MOST_GRADED,
  MOST_POINTS,
  MOST_READINGS,
} from './model/readings.ts';
export { Backup, MOST_OUTAGES, Outage, type Chance, type Recurring } from './model/backup.ts';
export { CellRecord } from './model/cell.ts';
export {
  ChargeControl,
  Charging,
  Join,
  JOINS,
  MEANWHILE,
  MOST_PROGRAMMED,
  MOST_STATIONS,
  MOST_TRIES,
  Precharge,
  Programming,
  SeriesDiode,
  Trimmed,
} from './model/charging.ts';
export { BEYOND, Wall } from './model/sources/base.ts';
export { ContractSource, Offer } from './model/sources/contracts.ts';
export { ReadSource, SourceReading } from './model/sources/readings.ts';
export { type Source } from './model/sources/registry.ts';
export { SupplySource } from './model/sources/supply.ts';
export { registerSource, retold, sourceKind, sourceKinds } from './charging/sources/registry.ts';
export { CellTemperature, FactorTable, PackWarmth } from './model/temperature.ts';
export { decodeThread, encodeThread, parseThread } from './model/decode.ts';
export { changeThread } from './model/changeThread.ts';
export { presentEdits } from './model/migrate.ts';
export { overlap, placesChanged, type Place } from './model/places.ts';
export { applyEdits, changeOf, type Change, type Edit } from './model/edit.ts';
export { fieldsOf, type FieldMeta } from './model/fields.ts';
export { GRADES, type Grade } from './model/grade.ts';
export { issueSentence, type Issue, type Outcome } from './model/issue.ts';
export {
  isConverter,
  isRegulated,
  STAGE_KINDS,
  swapKind,
  type Converter,
  type Regulated,
  type Stage,
  type StageKind,
} from './model/kinds/registry.ts';
export {
  AFTER,
  cycleSeconds,
  LoadMode,
  ModeDraw,
  modeName,
  MOST_MODES,
  MOST_SEGMENTS,
  Programme,
  Segment,
  turned,
} from './model/programme.ts';
export { loadAmps, loadLaw, type LoadLaw } from './loads/current.ts';
export { lawAtPeak, lawIn } from './loads/draws.ts';
export { MOST_SLICES, unfold, type Slice } from './model/cycle.ts';
export { DRAWS, type Draw } from './model/draw.ts';
export { Load, VoltRange } from './model/load.ts';
export { BELOW, MOST_PEAKS, Peak, Restart, Shedding } from './model/peak.ts';
export { EfficiencyLoss, LossPoint, PointsLoss, PolynomialLoss, type Loss } from './model/loss.ts';
export {
  Connectors,
  Disconnect,
  Drain,
  drainNamed,
  drainsOf,
  Fuse,
  Lead,
  Pack,
  Protection,
  RELEASES,
} from './model/pack.ts';
export {
  Capacitor,
  Diode,
  Divider,
  FourSwitchParts,
  Inductor,
  LimitSet,
  OutputFilter,
  SepicParts,
  Switch,
  TwoSwitchParts,
  type Rectifier,
  type StageParts,
} from './model/parts.ts';
export { gaugeAmps, GAUGES, Gauge, LIGHT_VOLTS } from './model/gauge.ts';
export { CellGroup, OddCells, WEAKEST } from './model/group.ts';
export { CELL_FORMAT, CellFile, cellFileOf } from './model/cellFile.ts';
export { applyRecord, recordOf, StageRecord } from './model/record.ts';
export { threadSchema } from './model/schema.ts';
export { Daily, Surroundings, USUAL_DAY, USUAL_SURROUNDINGS } from './model/surroundings.ts';
export {
  elementsFed,
  FORMAT,
  Goals,
  Room,
  Waiting,
  PACK,
  surroundingsOf,
  ThreadDocument,
  VERSION,
} from './model/thread.ts';
export type { NamedWay, Picture, Shape } from './stages/kinds/kind.ts';
export { isSizable, kindOf, registerKind, switchingKind } from './stages/kinds/registry.ts';
export { MODE_TABLE, MODES, isTrouble, type Mode } from './stages/modes.ts';
export { MECHANISMS, type Mechanism } from './stages/point.ts';
export { usesParts } from './stages/switching.ts';
export { namedWays, neededInput, passesInput } from './stages/traits.ts';
export { CHEMISTRIES, type ChemistryName } from './model/chemistries/registry.ts';

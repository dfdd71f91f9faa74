/** Charging: sources, chargers, what comes of a charge. */
export { chooseContract, rung, type LadderTask, type Rung } from './charging/contracts.ts';
export { leastFixed, ohmsAt, programmedRange, turnFor, type ProgrammedRange } from './charging/current.ts';
export {
  againstFull,
  ALLOWED_OVER,
  asBought,
  mostVolts,
  setBy,
  setForWorst,
  setVolts,
  spreadOf,
  stopVolts,
  varianceShares,
  type StopVolts,
} from './charging/volts.ts';
export { CHARGE_LIMITS, LIMITS, type ChargeLimit } from './charging/limits.ts';
export { phaseWord } from './charging/phases.ts';
export { ChargePoint } from './charging/point.ts';
export { cableOhms, sourceLaw, sourceVolts } from './charging/source.ts';
export { contractOf, type Contract } from './charging/sources/contracts.ts';
export { type SourceKind, type SourceLaw } from './charging/sources/kind.ts';
export { throughReadings } from './charging/sources/readings.ts';
export { contractSource, suggestCharging, usualSources } from './sizing/charging.ts';
export { charge, CHARGE_LIMIT } from './run/charge.ts';
export { Reading } from './run/reading/reading.ts';
export { endsFull } from './run/account/chargeResult.ts';
export type { ChargeEnd, ChargePhase, ChargeResult, Keeps } from './run/account/chargeResult.ts';
export { CHARGE } from './run/account/account.ts';
export { CHARGE_ROW } from './run/account/series.ts';
export { chargeNetlist } from './io/chargeNetlist.ts';
export { transferNetlist } from './io/transferNetlist.ts';
export { chargeFindings } from './checks/charging/charging.ts';
export { LongLook } from './run/longLook.ts';
export { outage } from './run/outage.ts';
export {
  darkSeconds,
  type Gone,
  type OutageResult,
  type Stretched,
  type Who,
} from './run/account/outageResult.ts';
export {
  handOver,
  handOverCourse,
  rideThrough,
  type HandedOver,
  type Transfer,
} from './transients/transfer.ts';
export { lowestLevel, type FloatLevel } from './backup/float.ts';
export { heldFrom, holdField, holdTimes, type Hold, type HoldField } from './backup/hold.ts';
export type { GroupsCharged } from './run/account/chargeResult.ts';
export { joinsOf, meeting, JOIN_WAYS, wayOf, type JoinOption, type JoinWay } from './backup/joins.ts';
export { goneOf } from './backup/timeline.ts';
export { randomYear, shareRange, YEARS, yearsOf, type Year } from './backup/years.ts';
export { backupOf, type BackupAnswers, type OutageRow } from './backup/backup.ts';
export { backupFindings } from './checks/charging/backup.ts';
export { chargeTogether, type Station, type Together } from './run/chargeTogether.ts';

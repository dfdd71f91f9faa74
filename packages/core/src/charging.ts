/** Charging: sources, chargers, what comes of a charge. */
export { chooseContract, rung, type LadderTask, type Rung } from './charging/contracts.ts';
export { leastFixed, ohmsAt, programmedRange, turnFor, type ProgrammedRange } from './charging/current.ts';
export {
  asBought,
  setForWorst,
  spreadOf,
  stopVolts,
  varianceShares,
  type StopVolts,
} from './charging/volts.ts';
export { CHARGE_LIMITS, LIMITS, type ChargeLimit } from './charging/limits.ts';
export { ChargePoint } from './charging/point.ts';
export {
  cableOhms,
  contractOf,
  mostAmps,
  sourceCurve,
  sourceVolts,
  throughReadings,
  type Contract,
  type SourceCurve,
} from './charging/source.ts';
export { contractSource, suggestCharging, usualSources } from './sizing/charging.ts';
export { charge, CHARGE_LIMIT } from './solver/charge.ts';
export { ChargeReading } from './solver/chargeReading.ts';
export { endsFull } from './solver/chargeResult.ts';
export type { ChargeEnd, ChargePhase, ChargeResult, Keeps } from './solver/chargeResult.ts';
export { CHARGE } from './solver/ledger.ts';
export { CHARGE_ROW } from './solver/series.ts';
export { chargeNetlist } from './io/chargeNetlist.ts';
export { transferNetlist } from './io/transferNetlist.ts';
export { chargeFindings } from './checks/charging/charging.ts';
export { outage, type Gone } from './solver/outage.ts';
export type { OutageResult, Stretched, Who } from './solver/outageResult.ts';
export {
  handOver,
  handOverCourse,
  rideThrough,
  type HandedOver,
  type Transfer,
} from './transients/transfer.ts';
export { lowestLevel, type FloatLevel } from './sizing/float.ts';
export { heldFrom, holdField, holdTimes, type Hold, type HoldField } from './sizing/hold.ts';
export type { GroupsCharged } from './solver/chargeResult.ts';
export { joinsOf, meeting, JOIN_WAYS, wayOf, type JoinOption, type JoinWay } from './sizing/joins.ts';
export { goneOf } from './sizing/timeline.ts';
export { randomYear, shareRange, YEARS, yearsOf, type Year } from './sizing/years.ts';
export { backupOf, type BackupAnswers, type OutageRow } from './sizing/backup.ts';
export { backupFindings } from './checks/charging/backup.ts';
export { chargeTogether, type Station, type Together } from './solver/chargeTogether.ts';

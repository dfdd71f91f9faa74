import { sourceCurve } from '../charging/source.ts';
import type { Backup } from '../model/backup.ts';
import type { Charging } from '../model/charging.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import { surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { AGED } from '../model/belief.ts';
import { handOver, rideThrough, type HandedOver, type Transfer } from '../transients/transfer.ts';
import { ChargeReading } from '../solver/chargeReading.ts';
import { charge } from '../solver/charge.ts';
import { Reading } from '../solver/reading.ts';
import { runPlant } from '../solver/rundown.ts';
import { ROW } from '../solver/series.ts';
import { outage, type Gone } from '../solver/outage.ts';
import type { OutageResult } from '../solver/outageResult.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** Outages of a timeline as stretches [s], in order, those that meet or overlap as one; and whether any did. */
export function goneOf({ outages, span }: Backup): { gone: Gone[]; merged: boolean } {
  const sorted = [...outages].sort((a, b) => a.from - b.from);
  const gone: Gone[] = [];
  let merged = false;
  for (const { from, hours } of sorted) {
    const to = Math.min(span, from + hours) * SECONDS_PER_HOUR;
    const begins = from * SECONDS_PER_HOUR;
    const last = gone.at(-1);
    if (last && begins <= last.to) {
      merged = true;
      last.to = Math.max(last.to, to);
    } else if (to > begins) gone.push({ from: begins, to });
  }
  return { gone, merged };
}

/** How long the pack holds, by the charge it has when mains goes. */
export interface Hold {
  name: 'new' | 'aged' | 'cold';
  /** state of charge, falling, and [s] from there to the useful end */
  soc: number[];
  seconds: number[];
}

/** Points of a hold curve. */
const POINTS = 25;

/**
 * Hold times by the charge left, of new cells, of aged ones and in the coldest air: each one run from full, read backwards; what
 * the cells' branches would have behind them differs a little.
 */
export function holdTimes(doc: ThreadDocument): Hold[] {
  const { minAir } = surroundingsOf(doc);
  const of = (name: Hold['name'], conditions: Partial<Conditions>): Hold => {
    const run = runPlant(compile(doc, { startSoc: 1, ...conditions }), { rows: 200 });
    const reading = new Reading(run.series, Infinity);
    const until = run.usefulEnd.time;
    const soc = Array.from({ length: POINTS }, (_, k) => 1 - k / (POINTS - 1));
    return { name, soc, seconds: soc.map((s) => Math.max(0, until - timeAt(reading, s))) };
  };
  return [of('new', {}), of('aged', { ...AGED }), of('cold', { air: minAir })];
}

/** [s] when so much charge is left, straight between rows. */
function timeAt(reading: Reading, soc: number): number {
  for (let row = 1; row < reading.count; row++) {
    const [a, b] = [reading.at(row - 1, ROW.soc), reading.at(row, ROW.soc)];
    if (b > soc) continue;
    const share = a > b ? Math.min(1, Math.max(0, (a - soc) / (a - b))) : 0;
    return reading.time(row - 1) + share * (reading.time(row) - reading.time(row - 1));
  }
  return reading.time(reading.count - 1);
}

/** What one outage did. [s] */
export interface OutageRow {
  from: number;
  to: number;
  /** state of charge when it ends */
  left: number;
  /** time until the charge it began with is back; absent where the next comes first or the timeline ends */
  recharge?: number;
  /** from its end to the next */
  gap: number;
  dark: boolean;
}

/** All that is asked of a thread that is to carry its loads without mains. */
export interface BackupAnswers {
  result: OutageResult;
  merged: boolean;
  holds: Hold[];
  rows: OutageRow[];
  /** the rail at the heaviest transfer; absent where they meet on the battery, which drops nothing */
  dip?: HandedOver & { task: Transfer; wanted: number; least: number };
  /** [V] the rail stands at on the adapter, and on the battery */
  rail: { adapter: number; battery: number };
  /** [A] the adapter is asked for at worst, charge and heaviest loads together, and what it gives */
  adapter: { worst: number; limit: number };
  /** [s] from empty to full, mains there; absent where it never is */
  refill?: number;
}

/** Work out a thread's backup. @throws Error where it says nothing of mains: a programmer's mistake */
export function backupOf(doc: ThreadDocument): BackupAnswers {
  const { backup, charging } = doc;
  if (!backup || !charging) throw new Error('backupOf: the thread says nothing of mains');
  const { gone, merged } = goneOf(backup);
  const result = outage(doc, gone, backup.span * SECONDS_PER_HOUR);
  const filled = charge({ ...doc, charging: { ...charging, from: 0.02 } }, undefined, {}, { rows: 0 });
  const rail = railVolts(doc, charging);
  const heaviest = heaviestOn(doc, charging);
  const dip = dipOf(charging, rail, heaviest);
  return {
    result,
    merged,
    holds: holdTimes(doc),
    rows: rowsOf(result, gone, backup.span * SECONDS_PER_HOUR, filled.end.soc),
    ...(dip ? { dip } : {}),
    rail: { adapter: rail.adapter, battery: rail.battery },
    adapter: adapterAt(charging, filled.mostSource, heaviest.watts, rail.adapter),
    ...(filled.end.reason === 'terminated' || filled.end.reason === 'recordFull'
      ? { refill: filled.end.time }
      : {}),
  };
}

function rowsOf(
  { series, dark }: OutageResult,
  gone: readonly Gone[],
  span: number,
  full: number,
): OutageRow[] {
  const rows = new ChargeReading(series);
  const socAt = (time: number) => rows.at(rows.rowAt(time), 'soc');
  return gone.map(({ from, to }, k) => {
    const next = gone[k + 1]?.from ?? span;
    const before = Math.min(full, socAt(from - 1e-3));
    let recharge: number | undefined;
    for (let row = rows.rowAt(to); row < rows.count && rows.at(row, 'time') <= next; row++) {
      if (rows.at(row, 'time') < to || rows.at(row, 'soc') < before - BACK) continue;
      recharge = rows.at(row, 'time') - to;
      break;
    }
    return {
      from,
      to,
      left: Math.max(0, socAt(to - 1e-3)),
      ...(recharge === undefined ? {} : { recharge }),
      gap: next - to,
      dark: dark.some((d) => d.from < to && d.to > from),
    };
  });
}

/** Share of the charge by which it may be less than before an outage and count as back. */
const BACK = 0.005;

/** [V] the rail that both feed stands at on either, under no load; and [V] it may fall to. */
function railVolts(doc: ThreadDocument, { source, join, meanwhile }: Charging) {
  const { open } = sourceCurve(source);
  const at = join?.at ?? 'pack';
  const stage = doc.stages.find((s) => s.id === at);
  const own = stage && isRegulated(stage) ? stage.outputVolts : doc.pack.series * doc.pack.cell.fullVolts;
  const least = Math.max(0, ...doc.loads.filter((l) => l.from === at && l.essential).map((l) => l.range.min));
  if (meanwhile !== 'path') return { adapter: own, battery: own, own, least };
  return {
    adapter: open - (join?.adapter.volts ?? 0),
    battery: own - (join?.battery.volts ?? 0),
    own,
    least,
  };
}

/** [W] most that the loads on the joined rail draw at once in any mode, peaks included. */
function heaviestOn(doc: ThreadDocument, { join }: Charging): { watts: number } {
  const at = join?.at ?? 'pack';
  const volts = (l: ThreadDocument['loads'][number]) =>
    (l.range.min + Math.min(l.range.max, 2 * l.range.min + 1)) / 2;
  const modes = doc.modes?.map((m) => m.id) ?? [undefined];
  const watts = modes.map((mode) =>
    doc.loads
      .filter((l) => l.from === at)
      .reduce((sum, l) => {
        const set = l.draws?.find((d) => d.mode === mode);
        const base = set ? set.value : l[l.draw]!;
        const peak = Math.max(
          1,
          ...(l.peaks ?? []).map((p) => p.factor ?? (p.value ?? 0) / Math.max(base, 1e-9)),
        );
        const value = base * peak;
        return (
          sum +
          (l.draw === 'power' ? value : l.draw === 'current' ? value * volts(l) : volts(l) ** 2 / value || 0)
        );
      }, 0),
  );
  return { watts: Math.max(0, ...watts) };
}

function dipOf(
  { join, meanwhile }: Charging,
  rail: ReturnType<typeof railVolts>,
  { watts }: { watts: number },
): BackupAnswers['dip'] | undefined {
  if (meanwhile !== 'path' || !join?.wake || !join.capacitance) return undefined;
  const task: Transfer = {
    rail: rail.adapter,
    farads: join.capacitance,
    esr: join.esr ?? 0,
    watts,
    seconds: join.wake,
    backup: rail.battery,
    ohms: Math.max(join.battery.resistance, 1e-3),
  };
  const found = handOver(task);
  return {
    ...found,
    // It may also settle lower than it dips.
    lowest: Math.min(found.lowest, found.settles),
    task,
    wanted: rail.least,
    least: rail.least > 0 ? rideThrough(task, rail.least) : 0,
  };
}

function adapterAt({ source, meanwhile }: Charging, charging: number, watts: number, volts: number) {
  const { limit } = sourceCurve(source);
  const loads = meanwhile === 'path' ? watts / Math.max(volts, 1) : 0;
  return { worst: Math.min(charging, limit) + loads, limit };
}

import { sourceLaw } from '../charging/source.ts';
import type { Charging } from '../model/charging.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { Allowance } from '../numeric/allowance.ts';
import { charge } from '../run/charge.ts';
import type { ChargeResult } from '../run/account/chargeResult.ts';
import { handOver, rideThrough, type HandedOver, type Transfer } from '../transients/transfer.ts';

/** A rail through its heaviest transfer. */
export interface Dip extends HandedOver {
  task: Transfer;
  /** [V] the least its essential loads work at; 0 where there are none on it */
  wanted: number;
  /** [F] least capacitor that carries it there; Infinity where none does */
  least: number;
}

/** [A] most that charging alone asks of the source. */
export function chargedAlone(doc: ThreadDocument, allowance: Allowance): number {
  return filledFrom(doc, allowance, { meanwhile: 'off' }).mostSource;
}

/** State of charge of a pack that counts as empty: a charge from there is what refilling takes. */
const EMPTY = 0.02;

/** A charge of an empty pack. */
export function filledFrom(
  doc: ThreadDocument,
  allowance: Allowance,
  otherwise: Partial<Charging> = {},
): ChargeResult {
  const charging: Charging = { ...doc.charging!, ...otherwise, from: EMPTY };
  return charge({ ...doc, charging }, undefined, {}, { rows: 0, allowance });
}

/** [V] the rail that both feed stands at on either, under no load; and [V] it may fall to. */
export function meetingVolts(doc: ThreadDocument, { source, join, meanwhile }: Charging) {
  const { open } = sourceLaw(source);
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

/** What the rail does at its heaviest transfer; nothing where they meet on the battery. @param watts [W] */
export function dipOf(
  { join, meanwhile }: Charging,
  rail: ReturnType<typeof meetingVolts>,
  watts: number,
): Dip | undefined {
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

/**
 * [A] the adapter is asked for at worst, and what it gives.
 * @param charging [A] by charging alone @param watts [W] of the loads on the rail, at `volts`
 */
export function adapterAt({ source, meanwhile }: Charging, charging: number, watts: number, volts: number) {
  const { limit } = sourceLaw(source);
  const loads = meanwhile === 'path' ? watts / Math.max(volts, 1) : 0;
  return { worst: Math.min(charging, limit) + loads, limit };
}

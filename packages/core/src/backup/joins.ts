import { JOINS, type Charging } from '../model/charging.ts';
import { applyEdits, type Edit } from '../model/edit.ts';
import { PACK, type ThreadDocument } from '../model/thread.ts';
import { endsFull } from '../run/account/chargeResult.ts';
import { Allowance } from '../numeric/allowance.ts';
import { EFFORT } from '../plant/effort.ts';
import { askedOf, meanWatts, mostOf } from './atTransfer.ts';
import { adapterAt, chargedAlone, dipOf, filledFrom, meetingVolts } from './meeting.ts';

/** Ways in which source and battery may meet. */
export type JoinWay = 'bus' | (typeof JOINS)[number];
export const JOIN_WAYS: readonly JoinWay[] = ['bus', ...JOINS];

/** How a thread's source and battery meet. */
export function wayOf({ meanwhile, join }: Charging): JoinWay {
  return meanwhile === 'path' ? (join?.kind ?? 'managed') : 'bus';
}

/** What the ways of a kind lose: a Schottky diode, a transistor that is driven as one. Common practice, no source. */
const LOSES: Readonly<Record<Exclude<JoinWay, 'bus'>, { volts: number; resistance: number }>> = {
  diode: { volts: 0.35, resistance: 0.12 },
  ideal: { volts: 0, resistance: 0.02 },
  managed: { volts: 0, resistance: 0.03 },
};

/** Edits that let source and battery meet in another way, on the rail they met on, or that of the first stage. */
export function meeting({ stages, charging }: ThreadDocument, way: JoinWay): Edit[] {
  const path = ['charging', 'meanwhile'];
  if (way === 'bus') return [{ op: 'replace', path, value: 'battery' }];
  const { join } = charging!;
  const at = join?.at ?? stages.find((s) => s.from === PACK)?.id ?? PACK;
  const value = {
    ...(join ?? { wake: 1e-3, capacitance: 1e-3, esr: 0.04 }),
    at,
    kind: way,
    adapter: { ...LOSES[way] },
    battery: { ...LOSES[way] },
  };
  return [
    { op: 'replace', path, value: 'path' },
    { op: join ? 'replace' : 'add', path: ['charging', 'join'], value },
  ];
}

/** What one way of joining comes to. */
export interface JoinOption {
  way: JoinWay;
  /** [V] lost between adapter and rail at the heaviest load, and [W] of both ways in the mean, loads on the adapter */
  drop: number;
  watts: number;
  /** [V] the rail at its lowest as mains goes, and the least wanted; absent where nothing is handed over */
  lowest?: number;
  wanted?: number;
  /** [A] asked of the adapter at worst, and what it gives; of one that the charger gives way to, no more than that */
  worst: number;
  limit: number;
  /** [s] from empty to full with the loads on; absent where it never is */
  refill?: number;
  /** whether the battery's side stands above the adapter's, and so feeds although mains is there */
  feeds: boolean;
}

/**
 * The four ways of joining side by side, for the same loads. The one in use as it is stated, the others with usual parts.
 * @param doc a thread that says how it is charged; a programmer's error otherwise
 */
export function* joinsOf(doc: ThreadDocument): Generator<number, JoinOption[], undefined> {
  const here = wayOf(doc.charging!);
  // The same whichever way they meet.
  const alone = chargedAlone(doc, new Allowance(EFFORT));
  const options: JoinOption[] = [];
  for (const way of JOIN_WAYS) {
    yield options.length / JOIN_WAYS.length;
    options.push(optionOf(way === here ? doc : applyEdits(doc, meeting(doc, way)), way, alone));
  }
  return options;
}

/** @param alone [A] that charging alone asks of the source */
function optionOf(doc: ThreadDocument, way: JoinWay, alone: number): JoinOption {
  const charging = doc.charging!;
  const rail = meetingVolts(doc, charging);
  const allowance = new Allowance(EFFORT);
  const asked = askedOf(doc, charging, rail.adapter, allowance);
  const most = mostOf(asked);
  const dip = dipOf(charging, rail, most);
  const filled = filledFrom(doc, allowance);
  const { reason, time } = filled.end;
  const bus = way === 'bus';
  const by = charging.join?.adapter ?? { volts: 0, resistance: 0 };
  const lost = (watts: number) => {
    const amps = watts / Math.max(rail.adapter, 1);
    return { volts: by.volts + amps * by.resistance, amps };
  };
  const mean = lost(meanWatts(asked));
  const { worst, limit } = adapterAt(charging, bus ? filled.mostSource : alone, most, rail.adapter);
  return {
    way,
    drop: bus ? 0 : lost(most).volts,
    watts: bus ? 0 : mean.volts * mean.amps,
    ...(dip ? { lowest: dip.lowest, wanted: dip.wanted } : {}),
    worst: way === 'managed' ? Math.min(worst, limit) : worst,
    limit,
    ...(endsFull(reason) ? { refill: time } : {}),
    feeds: !bus && rail.battery >= rail.adapter,
  };
}

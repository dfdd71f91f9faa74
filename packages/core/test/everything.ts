import fc from 'fast-check';
import { anyCharged } from './anyCharging.ts';
import { anyThread } from './arbitrary.ts';
import { decodeThread, type Charging, type Load, type ThreadDocument } from './core.ts';
import type { Backup } from '../src/model/backup.ts';
import type { Peak } from '../src/model/peak.ts';
import type { Segment } from '../src/model/programme.ts';

const share = fc.double({ min: 0, max: 1, noNaN: true });
/** [fraction] → a value whose logarithm is even between two. */
const spread = (low: number, high: number) => share.map((x) => low * (high / low) ** x);
const plain = <T>(shape: { [K in keyof T]: fc.Arbitrary<T[K]> }) =>
  fc.record(shape, { noNullPrototype: true });

const MODES = ['work', 'idle', 'burst'].map((id) => ({ id, name: id }));

/** What the loads do: two or three modes, some of it peaks, some of it giving way. */
const anyWork = fc.record({
  seconds: fc.array(spread(1, 40_000), { minLength: 2, maxLength: 4 }),
  shares: fc.array(share, { minLength: 24, maxLength: 24 }),
  peaks: fc.option(
    plain<Peak>({ factor: spread(0.5, 6), seconds: spread(0.01, 20), mode: fc.constant('work') }),
  ),
  every: spread(25, 2000),
  below: fc.constantFrom('stops' as const, 'resets' as const, undefined),
});

/** Mains over days: outages stated and outages that recur. */
const anyBackup: fc.Arbitrary<Backup> = fc
  .record({
    span: spread(5, 3000),
    outages: fc.array(fc.tuple(share, spread(0.01, 40)), { maxLength: 6 }),
    every: fc.option(fc.tuple(share, spread(0.05, 0.8), spread(4, 400))),
  })
  .map(({ span, outages, every }) => ({
    span,
    outages: outages.map(([at, hours]) => ({ from: at * span * 0.999, hours })),
    ...(every ? { recurring: { from: every[0] * span, hours: every[1] * every[2], every: every[2] } } : {}),
  }));

/** The air: cold or warm, still or through a day; a pack that warms itself. */
const anyAir = fc.record({
  air: fc.double({ min: -20, max: 50, noNaN: true }),
  swing: fc.option(fc.double({ min: 0.5, max: 15, noNaN: true })),
  heat: fc.option(fc.tuple(spread(1, 3000), spread(0.1, 20))),
});

const anyControl = fc.record({
  recharge: fc.option(fc.double({ min: 3, max: 4.4, noNaN: true })),
  timer: fc.option(spread(0.2, 40)),
  balance: fc.option(spread(0.01, 0.3)),
});

/**
 * Any thread with everything in it: a tree of stages, a programme, groups or cells that differ, a board that balances, cold, a
 * charger, mains that comes and goes. Always a valid one.
 */
export const anyWhole: fc.Arbitrary<ThreadDocument> = fc
  .tuple(
    anyThread,
    fc.option(anyWork, { freq: 4 }),
    anyCharged,
    fc.option(anyBackup, { freq: 4 }),
    anyAir,
    anyControl,
  )
  .map(([doc, work, charged, backup, air, control]): ThreadDocument => {
    const whole: ThreadDocument = {
      ...doc,
      pack: { ...doc.pack, ...packIn(doc, control.balance, air.heat) },
      conditions: {
        minAir: Math.min(air.air, 0),
        air: air.air,
        maxAir: Math.max(air.air, 40),
        ...(air.swing === null ? {} : { daily: { swing: air.swing, warmestAt: 15, startsAt: 8 } }),
      },
      charging: chargingOf(charged.charging, doc, control),
      ...(backup ? { backup } : {}),
      ...(work ? workOf(doc, work) : {}),
    };
    const decoded = decodeThread(JSON.parse(JSON.stringify(whole)));
    return decoded.ok ? decoded.value : JSON.parse(JSON.stringify(doc));
  });

function packIn(
  { pack }: ThreadDocument,
  balance: number | null,
  heat: [number, number] | null,
): Partial<ThreadDocument['pack']> {
  return {
    ...(pack.protection && balance !== null
      ? { protection: { ...pack.protection, balanceCurrent: balance } }
      : {}),
    ...(heat ? { warmth: { heatCapacity: heat[0], resistance: heat[1], grade: 'assumed' as const } } : {}),
  } as Partial<ThreadDocument['pack']>;
}

/** A charger made for another pack, set near the volts of this one. */
function chargingOf(
  charging: Charging,
  { pack, stages }: ThreadDocument,
  { recharge, timer }: { recharge: number | null; timer: number | null },
): Charging {
  const volts = 'outputVolts' in charging.stage ? charging.stage.outputVolts : 0;
  const cells = Math.max(1, Math.round(volts / 4.2));
  const stage = 'outputVolts' in charging.stage ? { outputVolts: (volts / cells) * pack.series } : {};
  const at = charging.join && stages.length > 0 && pack.series > 2 ? stages[0]!.id : 'pack';
  return {
    ...charging,
    stage: { ...charging.stage, ...stage } as Charging['stage'],
    ...(charging.control
      ? {
          control: {
            ...charging.control,
            ...(recharge === null ? {} : { recharge }),
            ...(timer === null ? {} : { timer }),
          },
        }
      : {}),
    ...(charging.join ? { join: { ...charging.join, at } } : {}),
  };
}

type Work = typeof anyWork extends fc.Arbitrary<infer T> ? T : never;

function workOf({ loads }: ThreadDocument, work: Work): Partial<ThreadDocument> {
  const { seconds, shares, peaks, every, below } = work;
  return {
    modes: MODES,
    loads: loads.map((l, k): Load => {
      const value = l[l.draw]!;
      const at = (n: number) => shares[(3 * k + n) % shares.length]!;
      const draws = MODES.map(({ id }, n) => ({ mode: id, value: at(n) < 0.25 ? 0 : value * at(n) }));
      return {
        ...l,
        draws,
        ...(peaks && k === 0 ? { peaks: [{ ...peaks, every }] } : {}),
        ...(below && k === 1
          ? { below, ...(below === 'resets' ? { restart: { seconds: 2, value } } : {}) }
          : {}),
      };
    }),
    programme: {
      segments: seconds.map((s, k): Segment => ({ mode: MODES[k % MODES.length]!.id, seconds: s })),
      after: 'repeat',
    },
  };
}

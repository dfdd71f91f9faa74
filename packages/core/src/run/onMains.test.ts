import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  charge,
  defaultLinear,
  LongLook,
  outage,
  type Charging,
  type ThreadDocument,
} from '../../test/core.ts';
import { anyProgramme, cycled } from '../../test/programmes.ts';
import { stretchesBetween, scheduleOf } from './timeline/schedule.ts';

const HOUR = 3600;

/** Any programme's pack on a linear charger that can carry its loads. */
function charged(
  doc: ThreadDocument,
  rate: number,
  more: Partial<Charging> = {},
  deglitch = 30,
): ThreadDocument {
  const { cell } = doc.pack;
  const current = rate * cell.capacityAh;
  const charging: Charging = {
    source: {
      ...{ kind: 'supply', name: 'S', volts: cell.fullVolts + 0.8, droop: 0, limit: 20, beyond: 'hard' },
      grade: 'assumed',
    },
    stage: {
      ...defaultLinear('c', 'source', cell.ocv.volts.at(-1)! - 0.005),
      ...{ dropoutVolts: 0.05, dropoutResistance: 0.01, outputLimit: 20, maxInput: 30 },
      thermalResistance: 0.1,
    },
    control: { current, sense: 'output', terminate: current / 10, deglitch },
    meanwhile: 'battery',
    from: 0.3,
    ...more,
  };
  return { ...doc, charging };
}

/** A minute at 1 A, a minute off, on 10 Ah that are charged with 1.2 A; each minute it is off is too short to end the charge. */
const minutes = charged(cycled([{}], undefined, 10), 0.12, {}, 100);

/** Off for so long around the end of each cycle, a minute at 1 A between; charged with 1.2 A. */
const around = (off: number, deglitch: number, ampHours: number) => {
  const doc = cycled([{}], undefined, ampHours);
  const segments = [
    { mode: 'off', seconds: off / 2 },
    { mode: 'on', seconds: 60 },
    { mode: 'off', seconds: off / 2 },
  ];
  return charged({ ...doc, programme: { segments, after: 'repeat' } }, 1.2 / ampHours, {}, deglitch);
};

describe('cycles of a programme while the pack is charged', () => {
  it('are skipped, and come to what they come to one by one', () => {
    const doc = minutes;
    const skipped = charge(doc);
    const all = charge(doc, undefined, {}, { everyCycle: true });
    expect(skipped.counts.skipped).toBeGreaterThan(10);
    expect(all.counts.skipped).toBe(0);
    expect(skipped.end.reason).toBe(all.end.reason);
    expect(skipped.end.time / all.end.time).toBeCloseTo(1, 3);
    expect(skipped.end.soc).toBeCloseTo(all.end.soc, 3);
    expect(skipped.ledger.closure).toBeLessThan(1e-7);
    // 1.2 A less half an ampere on the mean fill 10 Ah from 30 %, while the volts are not held.
    expect(skipped.to80! / HOUR).toBeCloseTo(5 / 0.7, 1);
  });

  it('with a current that is low from the end of one into the next are skipped, and do not end it', () => {
    const skipped = charge(around(80, 100, 10));
    expect(skipped.counts.skipped).toBeGreaterThan(50);
    expect(skipped.heldIn).toBeUndefined();
    // Each minute of load breaks what is low for 80 s: it never has been for 100.
    expect(skipped.end.reason).toBe('never');
    expect(skipped.ledger.closure).toBeLessThan(1e-6);
  });

  it('of a pack that stands full are skipped by the thousand, and leave it so', () => {
    const kept = outage(around(80, 100, 10), [], 10 * 24 * HOUR);
    expect(kept.byMean).toBe(false);
    expect(kept.counts.skipped).toBeGreaterThan(3000);
    // What is low for 80 s in each is not low since days ago: the charger goes on holding its volts.
    const { data, count } = kept.series;
    expect(data[(data.length / count) * (count - 1) + 1]!).toBeCloseTo(0.995, 3);
    expect(kept.lowest.soc).toBeGreaterThan(0.99);
  });

  it('in which the current stays low for long enough end it, where they do one by one', () => {
    const doc = around(240, 100, 40);
    const skipped = charge(doc);
    const all = charge(doc, undefined, {}, { everyCycle: true });
    expect(all.end.reason).toBe('terminated');
    expect(skipped.end.reason).toBe('terminated');
    expect(skipped.counts.skipped).toBeGreaterThan(20);
    expect(skipped.end.time / all.end.time).toBeCloseTo(1, 2);
  });

  it('of any programme: the same end within 0.5 %, the account closed', () => {
    fc.assert(
      // At half a charge an hour and 0.6 for a third of the time, what flows between is on the mean just what ends it: either is right.
      fc.property(anyProgramme, fc.double({ min: 0.55, max: 1.5, noNaN: true }), (doc, rate) => {
        const on = charged(doc, rate);
        const skipped = charge(on);
        const all = charge(on, undefined, {}, { everyCycle: true });
        expect(skipped.ledger.closure).toBeLessThan(1e-6);
        if (all.end.reason === 'unfinished') return;
        expect(skipped.end.reason).toBe(all.end.reason);
        expect(skipped.end.soc).toBeCloseTo(all.end.soc, 2);
        if (all.to80 && all.to80 > 0) expect(skipped.to80! / all.to80).toBeCloseTo(1, 2);
      }),
      { numRuns: 8, seed: 24 },
    );
  });
});

describe('cycles of a programme over outages', () => {
  const gone = [
    { from: 20 * HOUR, to: 32 * HOUR },
    { from: 60 * HOUR, to: 90 * HOUR },
  ];

  it('are followed: an outage of 12 h takes 6 Ah of a pack that feeds half an ampere on the mean', () => {
    const doc = minutes;
    const result = outage(doc, gone.slice(0, 1), 40 * HOUR);
    expect(result.byMean).toBe(false);
    expect(result.end.whole).toBe(true);
    expect(result.counts.skipped).toBeGreaterThan(500);
    expect(result.lowest.soc).toBeCloseTo(0.995 - 0.6, 2);
    expect(result.lowest.time / HOUR).toBeCloseTo(32, 1);
    expect(result.ledger.closure).toBeLessThan(1e-7);
  });

  it('come to what they come to one by one, in the dark too; by their mean draw to nearly that', () => {
    const doc = minutes;
    const found = outage(doc, gone, 120 * HOUR);
    const all = outage(doc, gone, 120 * HOUR, {}, { everyCycle: true, effort: 1e9 });
    const mean = new LongLook(doc).over(gone, 120 * HOUR);
    const dark = (r: typeof found) => r.dark.reduce((s, d) => s + d.to - d.from, 0) / HOUR;
    expect([found.byMean, all.byMean, mean.byMean]).toEqual([false, false, true]);
    expect(found.counts.skipped).toBeGreaterThan(500);
    expect(all.counts.skipped).toBe(0);
    expect(dark(found)).toBeCloseTo(dark(all), 1);
    expect(dark(mean)).toBeCloseTo(dark(all), 0);
    expect(found.who.map((w) => w.what)).toEqual(all.who.map((w) => w.what));
    expect(found.unserved / all.unserved).toBeCloseTo(1, 2);
  });

  it('a load that is down in each of them is so in those that are skipped', () => {
    const doc = around(40, 100, 10);
    const lock = { ...doc.loads[0]!, range: { min: 9, max: 12 }, essential: true };
    const { end, dark: gaps } = outage({ ...doc, loads: [lock] }, gone, 50 * HOUR);
    const dark = gaps.reduce((s, d) => s + d.to - d.from, 0);
    // A minute of every 100 s.
    if (end.whole) expect(dark / (50 * HOUR)).toBeCloseTo(0.6, 1);
    else expect(dark / end.time).toBeCloseTo(0.6, 1);
  });

  it('what a programme would have taken between two times is that of its stretches', () => {
    const schedule = scheduleOf(cycled([{}]))!;
    const seconds = (from: number, to: number) =>
      stretchesBetween(schedule, from, to).reduce(
        (sum, s) => sum + s.seconds * s.draws.values[0]! * s.draws.factors[0]!,
        0,
      );
    // A minute at 1 A, a minute at nothing.
    expect(seconds(0, 60)).toBeCloseTo(60, 9);
    expect(seconds(30, 90)).toBeCloseTo(30, 9);
    expect(seconds(90, 90 + 1200)).toBeCloseTo(600, 9);
    expect(seconds(0, 1e6)).toBeCloseTo(5e5 + 20, 0);
  });
});

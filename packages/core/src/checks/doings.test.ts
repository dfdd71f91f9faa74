import { describe, expect, it } from 'vitest';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { applyEdits } from '../model/edit.ts';
import { defaultBuckBoost } from '../model/kinds/buckBoost.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { simulate } from '../run/rundown.ts';
import { findings } from './checks.ts';
import type { Finding } from './finding.ts';

describe('what loads do', () => {
  const cell = { ...plainCell(2, 3, 4.2, 0.06), endVolts: 3.05, damageVolts: 2.5, dischargeRate: 5 };
  const modes = [
    { id: 'send', name: 'Send' },
    { id: 'sleep', name: 'Sleep' },
  ];
  const programme = {
    segments: [
      { mode: 'send', seconds: 2 },
      { mode: 'sleep', seconds: 58 },
    ],
    after: 'repeat' as const,
  };
  const controller = load('current', 0.02, {
    id: 'controller',
    name: 'Controller',
    range: { min: 3.3, max: 4.3 },
  });
  const motor = load('current', 0.2, {
    id: 'motor',
    name: 'Motor',
    essential: false,
    draws: [{ mode: 'sleep', value: 0 }],
    peaks: [{ value: 5, seconds: 0.2, mode: 'send' }],
    range: { min: 0, max: 9 },
  });
  const plain = (text: string) => text.replace(/\u00a0/g, ' ');
  const by = (doc: ThreadDocument, id: string): Finding | undefined => {
    const found = findings(doc, simulate(doc)).find((f) => f.id === id);
    return found && { ...found, title: plain(found.title), reason: plain(found.reason) };
  };
  const busy = (more: Partial<Parameters<typeof thread>[0]> = {}): ThreadDocument => ({
    ...thread({ cell, pack: { protection: seriesOhms(0.02, 2.6) }, loads: [controller, motor], ...more }),
    modes,
    programme,
  });

  it('a load that pulls another down is named, with the dip, and a supply of its own mends it', () => {
    const doc = busy();
    const found = by(doc, 'brown-out:controller')!;
    expect(found.severity).toBe('fails');
    expect(found.title).toMatch(
      /^Motor pulls Controller from 3\.\d+ V down to 3\.(2\d|30) V; it needs 3\.30 V/,
    );
    // 5 A through 80 mΩ. By hand.
    expect(found.reason).toContain('400 mV');
    const mended = applyEdits(doc, found.action!.edits);
    expect(simulate(mended).usefulEnd.time).toBeGreaterThan(1.05 * simulate(doc).usefulEnd.time);
    expect(by(mended, 'brown-out:controller')).toBeUndefined();
    // Resetting is said too, though the load has let go before the peak is over.
    const resets = { ...controller, below: 'resets' as const, restart: { seconds: 1, value: 0.03 } };
    expect(by(busy({ loads: [resets, motor] }), 'brown-out:controller')!.reason).toContain('starts anew');
    // Without the peak it is no brown-out but the end of the charge.
    const { peaks, ...calm } = motor;
    void peaks;
    expect(by(busy({ loads: [controller, calm] }), 'brown-out:controller')).toBeUndefined();
  });

  it('a board: who is at a peak when it trips, one that passes, waking, and a release too low', () => {
    const board = { ...seriesOhms(0.02, 2.6), tripCurrent: 4, tripDelay: 0.05 };
    const tripped = by(busy({ pack: { protection: board } }), 'trip:protection')!;
    expect(tripped.title).toBe('Protection trips at 4.00 A after 50.0 ms and cuts everything off');
    expect(tripped.reason).toMatch(/^Motor is at its peak then/);
    const fixed = applyEdits(busy({ pack: { protection: board } }), tripped.action!.edits);
    expect(simulate(fixed).deadEnd.reason).not.toBe('trip');
    const passes = by(busy({ pack: { protection: { ...board, tripDelay: 0.3 } } }), 'trip:protection')!;
    expect(passes.title).toMatch(/^Peaks of 5\.0\d A pass the board's 4\.00 A/);
    const waking = { ...seriesOhms(0.02, 3.2), wakeUp: true, releaseVolts: 3.15 };
    const doc = busy({ pack: { protection: waking } });
    expect(by(doc, 'wake-up:protection')).toBeDefined();
    expect(by(doc, 'release:protection')!.title).toContain('closes again');
    const later = { ...waking, releaseVolts: 3.8 };
    expect(by(busy({ pack: { protection: later } }), 'release:protection')).toBeUndefined();
  });

  it('a fuse by i²t where peaks are short, by what flows for long otherwise', () => {
    const fused = (fuse: object) => busy({ pack: { fuse: { rating: 2, resistance: 0.01, ...fuse } } });
    // 5.02 A for 0.2 s: 5.04 A²s. By hand.
    const melts = by(fused({ meltingI2t: 4 }), 'fuse-pulse:fuse')!;
    expect(melts.severity).toBe('fails');
    expect(melts.title).toContain('5.04 A²s');
    expect(by(fused({ meltingI2t: 10 }), 'fuse-pulse:fuse')!.severity).toBe('tight');
    expect(by(fused({ meltingI2t: 50 }), 'fuse-pulse:fuse')).toBeUndefined();
    // The peak is not what it carries for long.
    expect(by(fused({ meltingI2t: 50 }), 'fuse:fuse')).toBeUndefined();
    expect(by(fused({ rating: 0.25, meltingI2t: 50 }), 'fuse:fuse')).toBeDefined();
  });

  it('what rushes into a capacitance: by resistance and delay', () => {
    const charged = { ...controller, capacitance: 2e-3 };
    const doc = (protection: object) =>
      busy({ loads: [charged], pack: { protection: { ...seriesOhms(0.02, 2.6), ...protection } } });
    // 4.2 V over 80 mΩ: 52.5 A, τ 0.16 ms: above 30 A for 0.09 ms. By hand.
    const trips = by(doc({ tripCurrent: 30 }), 'inrush:controller')!;
    expect(trips.title).toContain('52.5 A');
    expect(by(doc({ tripCurrent: 30, tripDelay: 8e-5 }), 'inrush:controller')).toBeDefined();
    expect(by(doc({ tripCurrent: 30, tripDelay: 1e-4 }), 'inrush:controller')).toBeUndefined();
    // Behind a stage of 1 A that already gives 0.2 A: 10 mF to 5 V with 0.8 A take 62.5 ms. By hand.
    const rail = { ...defaultBuckBoost('rail', 'pack', 5), minInput: 2, outputLimit: 1 };
    const slow = (capacitance: number) => {
      const behind = { ...charged, from: 'rail', current: 0.2, capacitance, range: { min: 4.8, max: 5.2 } };
      return by(busy({ stages: [rail], loads: [behind] }), 'slow-start:controller');
    };
    expect(slow(10e-3)!.title).toBe('Buck-boost takes 62.5 ms at its limit to charge Controller');
    expect(slow(3e-3)).toBeUndefined();
  });

  it('a lock-out that chatters says how fast, by what stands at its input', () => {
    const rail = { ...defaultBuckBoost('rail', 'pack', 5), minInput: 3.3, hysteresis: 0.05, inputLimit: 20 };
    const doc = thread({
      cell,
      pack: { protection: seriesOhms(0.1, 2.6) },
      stages: [rail],
      loads: [load('power', 8, { from: 'rail', range: { min: 4.8, max: 5.2 } })],
    });
    // τ = 0.16 Ω · 47 µF is 8 µs, and it goes some 0.05 V up and down: tens of kilohertz and more.
    expect(by(doc, 'cycling:rail')!.reason).toMatch(/sags again, some 1(0|00)\.?0? kHz/);
  });

  it('a start that empty cells no longer carry', () => {
    const starts = load('power', 4, {
      name: 'Pump',
      peaks: [{ value: 18, seconds: 0.3 }],
      range: { min: 2.9, max: 9 },
    });
    const doc = thread({
      cell,
      pack: { protection: { ...seriesOhms(0.02, 2.6), tripCurrent: 5.5 } },
      loads: [starts],
    });
    const found = by(doc, 'start:load')!;
    expect(found.severity).toBe('tight');
    expect(found.reason).toContain('opens the protection at 5.50 A');
    // 5.5 A at 18 W: OCV = 18/5.5 + 0.08 · 5.5. By hand; looked at 24 instants.
    const soc = (18 / 5.5 + 0.08 * 5.5 - 3) / 1.2;
    expect(Math.abs(Number(/(\d+) %/.exec(found.title)![1]) / 100 - soc)).toBeLessThan(0.06);
  });

  it('waiting: against the wish, with the stage that takes it; light loads', () => {
    const stages = [{ ...defaultBuckBoost('rail', 'pack', 5), minInput: 2 }];
    const radio = { ...motor, from: 'rail', range: { min: 4.8, max: 5.2 }, peaks: [] };
    const doc = busy({ stages, loads: [radio, { ...controller, current: 1e-4 }] });
    const waiting = { ...doc, goals: { ...doc.goals, wait: { mode: 'sleep', hours: 5000 } } };
    const found = by(waiting, 'waits:cells')!;
    expect(found.reason).toContain('is Buck-boost');
    const mended = applyEdits(waiting, found.action!.edits);
    expect(by(mended, 'waits:cells')).toBeUndefined();
    const light = by(doc, 'light-load:rail')!;
    expect(light.title).toMatch(/^In Sleep, 97 % of the time, Buck-boost takes/);
    expect(by(applyEdits(doc, light.action!.edits), 'light-load:rail')).toBeUndefined();
    // Shut down it draws that in the run as well.
    expect(simulate(mended).usefulEnd.time).toBeGreaterThan(1.1 * simulate(waiting).usefulEnd.time);
    expect(by({ ...doc, programme: { ...programme, wanted: 1e6 } }, 'cycles:cells')!.severity).toBe('fails');
  });
});

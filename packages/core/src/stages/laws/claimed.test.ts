import { describe, expect, it } from 'vitest';
import { blend, ClaimedLaw } from './claimed.ts';
import { LossLaw } from './loss.ts';
import { lossSurface } from './surface.ts';

describe('a stated loss', () => {
  const law = new ClaimedLaw({
    loss: new LossLaw({ basis: 'efficiency', efficiency: 1, quiescentCurrent: 2e-3 }, 12),
    quiescent: 2e-3,
    inputLimit: 10,
    gain: 8,
    ohms: 0,
    volts: 0.4,
    resistance: 0.15,
    drop: 0.4,
    mode: 0,
  });

  it('is never less than the series path takes: (V + R·I + Vd)·I, and the own draw', () => {
    // 12 V 0.5 A through 0.15 Ω and 0.4 V: 6 + 0.0375 + 0.2 W.
    const p = law.at(5, 12, 0.5);
    expect(p.inputAmps).toBeCloseTo(6.2375 / 5 + 2e-3, 12);
    expect(p.heat).toBeCloseTo(0.2375 + 0.01, 12);
    expect(p.room).toBeCloseTo(10 - p.inputAmps, 12);
  });

  it('keeps one point: what is read of it is of the question asked last', () => {
    const first = law.at(5, 12, 0.5);
    expect(law.at(6, 12, 0.1)).toBe(first);
    expect(first).toMatchObject({ vin: 6, iout: 0.1 });
  });
});

describe('a window', () => {
  it('rises and falls over a fifth of it at either edge, and is nothing outside', () => {
    const at = (v: number) => blend(v, 10, 20);
    expect([10, 11, 12, 15, 18, 19, 20].map(at)).toEqual(
      [0, 0.5, 1, 1, 1, 0.5, 0].map((x) => expect.closeTo(x, 12)),
    );
    expect([at(9), at(21)]).toEqual([0, 0]);
  });
});

describe('a table of readings', () => {
  const points = [
    { inputVolts: 6, outputAmps: 1, inputAmps: 1 }, // loses 1 W at 5 V out
    { inputVolts: 10, outputAmps: 1, inputAmps: 0.7 }, // loses 2 W
  ];
  const surface = lossSurface(points, 5, 0);

  it('leans towards the nearer input', () => {
    expect(surface.at(7, 1)).toBeCloseTo(1.25, 12);
    expect(surface.at(9, 1)).toBeCloseTo(1.75, 12);
    expect(surface.at(4, 1)).toBeCloseTo(1, 12);
  });

  it('says every input at which it bends: its lines, and where own draw or path take over', () => {
    // Loss between the lines 1 + (v − 6)/4; the path takes 1.6 W from 8.4 V down.
    const bends = new LossLaw({ basis: 'points', quiescentCurrent: 0, points }, 5).bends(5, 1, 5 + 1.6);
    for (const v of [6, 10, 8.4]) expect(Math.min(...bends.map((b) => Math.abs(b - v)))).toBeLessThan(1e-9);
  });
});

import { demoThreads, stageEnvelope } from '@mile-thread/core';
import { kindOf, MECHANISMS, STAGE_KINDS, type Stage, type StageKind } from '@mile-thread/core/model';
import { simulate } from '@mile-thread/core/solve';
import { describe, expect, it } from 'vitest';
import { COIL, schematic } from '../../drawing/schematic.ts';
import { tracePath, waveforms } from '../../drawing/waveform.ts';
import { deed, figuresShown, instantOf, lossParts } from './model.ts';

const doc = demoThreads()[0]!;
const lamp = doc.stages[0]!;
const run = simulate(doc);
const envelope = stageEnvelope(doc, run, lamp.id);

describe('the stage at the needle', () => {
  it('lies between its neighbours, and never blends two ways of working', () => {
    const { snapshots } = envelope;
    for (let k = 1; k < snapshots.length; k++) {
      const [a, b] = [snapshots[k - 1]!, snapshots[k]!];
      const middle = instantOf(envelope, (a.time + b.time) / 2)!;
      expect([a.mode, b.mode]).toContain(middle.mode);
      expect(middle.vin).toBeLessThanOrEqual(Math.max(a.vin, b.vin));
      expect(middle.vin).toBeGreaterThanOrEqual(Math.min(a.vin, b.vin));
      expect(middle.period!.share.length).toBe(middle.period!.current.length - 1);
    }
    expect(instantOf(envelope, -1)!.time).toBe(0);
    expect(instantOf(envelope, 1e9)!.time).toBe(snapshots.at(-1)!.time);
  });

  it('says in words what the switches do', () => {
    expect(deed(lamp, instantOf(envelope, 0)!)).toMatch(
      /^S4 stays closed; S1 and S2 take turns at 600\s?kHz: steps down/,
    );
    const last = envelope.snapshots.findLast((s) => s.mode === 'both')!;
    expect(deed(lamp, last)).toMatch(/^all four switches take turns/);
  });

  it('shows where every watt goes, and the tightest figures first', () => {
    const s = instantOf(envelope, run.usefulEnd.time / 2)!;
    const lost = s.vin * s.iin - s.vout * s.iout;
    const shown = lossParts(s.losses).reduce((a, p) => a + p.watts, 0);
    expect(shown / lost).toBeCloseTo(1, 2);
    expect(s.losses).toHaveLength(MECHANISMS.length);
    const few = figuresShown(envelope.figures, false);
    expect(few.length).toBeLessThan(envelope.figures.length);
    const tightest = [...envelope.figures].filter((f) => f.room !== undefined && !f.id.endsWith('Volts'));
    tightest.sort((a, b) => a.room! - b.room!);
    expect(few).toContain(envelope.figures.indexOf(tightest[0]!));
    expect(figuresShown(envelope.figures, true)).toHaveLength(envelope.figures.length);
  });
});

describe('waveforms', () => {
  it('have the mean of the period they are drawn from, and end where they begin', () => {
    for (const s of envelope.snapshots) {
      const { current, nodes } = waveforms(s.period!, s.vin, s.vout);
      const area = (t: number[], v: number[]) =>
        t.slice(1).reduce((sum, at, k) => sum + ((v[k + 1]! + v[k]!) / 2) * (at - t[k]!), 0);
      const rows = envelope.figures.find((f) => f.id === 'inductorRms')!.index;
      // The mean of a triangle differs from its RMS by the ripple only.
      expect(area(current.t, current.value) / 2).toBeLessThanOrEqual(s.values[rows]!);
      expect(current.t[0]).toBe(0);
      expect(current.t.at(-1)).toBeCloseTo(2, 9);
      expect(current.value.at(-1)).toBeCloseTo(current.value[0]!, 9);
      // Volt-seconds of an ideal inductor: the input node's mean is the output node's, drops apart.
      const mean = (n: (typeof nodes)[number]) => area(n.trace.t, n.trace.value) / 2;
      const [left, right] =
        nodes.length === 2
          ? [mean(nodes[0]!), mean(nodes[1]!)]
          : s.mode === 'buck'
            ? [mean(nodes[0]!), s.vout]
            : [s.vin, mean(nodes[0]!)];
      expect(Math.abs(left! - right!)).toBeLessThan(0.15);
    }
    expect(tracePath({ t: [0, 2], value: [0, 1] }, { x: 10, y: 0, width: 100, height: 50 }, 0, 1)).toBe(
      'M10.0 50.0L110.0 0.0',
    );
  });
});

describe('schematic', () => {
  const kinds = (Object.keys(STAGE_KINDS) as StageKind[]).filter((k) => k !== 'direct');
  it.each(kinds)('of a %s: every part once, inside the picture, wires meeting the parts', (kind) => {
    for (const diode of [true, false]) {
      const s = schematic(kindOf({ kind } as Stage).picture, {
        rectifier: diode,
        buckLow: diode,
        boostHigh: diode,
      });
      const parts = s.symbols.map((x) => x.part);
      expect(new Set(parts).size).toBe(parts.length);
      expect(s.labels.map((l) => l.part).sort()).toEqual([...parts].sort());
      const points = s.wires.flat();
      for (const [x, y] of points) {
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x).toBeLessThanOrEqual(s.width);
        expect(y).toBeGreaterThan(0);
        expect(y).toBeLessThan(s.height);
      }
      for (const coil of s.symbols.filter((x) => x.shape === 'inductor' && !x.vertical)) {
        const ends = [coil.x - COIL, coil.x + COIL];
        for (const end of ends) expect(points.some(([x, y]) => x === end && y === coil.y)).toBe(true);
      }
    }
  });
});

import { describe, expect, it } from 'vitest';
import {
  CELL_LIBRARY,
  cellCurves,
  column,
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  defaultDirect,
  defaultLinear,
  demoThreads,
  instantAt,
  packSource,
  ROW,
  rowAt,
  seriesCsv,
  simulate,
  stageColumn,
  STAGE_ROW,
  type Load,
  type RunResult,
} from './core.ts';
import { CellState } from '../src/run/step/state.ts';
import { Step } from '../src/run/step/step.ts';
import { load, plainCell, seriesOhms, thread } from './build.ts';

const WH = 3600;
const energy = (run: RunResult, element: string, mechanism?: string) =>
  run.ledger.entries
    .filter((e) => e.element === element && (mechanism === undefined || e.mechanism === mechanism))
    .reduce((sum, e) => sum + e.joules, 0) / WH;
const rail = (from: string, draw: 'power' | 'current' | 'resistance', value: number, id: string): Load =>
  load(draw, value, { id, from, range: { min: 0.1, max: 100 } });

describe('a tree against a plain integration written for it alone', () => {
  /**
   * The same design solved another way: explicit mid-point in time at 0.25 s, the pack voltage by bisection,
   * every stage's formula written out by hand. 3S2P, 0.08 Ω; buck to 5 V at η 0.9 with 2 mA own draw feeding
   * 3 W and a linear 3.3 V (0.2 mA) with 0.15 A; boost to 15 V with loss 0.1 + 0.2·Io + 0.04·Iin² feeding 40 Ω.
   */
  it('runtime, energies and losses agree', () => {
    const cell = CELL_LIBRARY['18650-energy']!;
    const { ocv, r0, branches } = cellCurves(cell);
    const demand = (v: number) => {
      const linear = 0.15 + 0.2e-3;
      const buck = (3 + 5 * linear) / (0.9 * v) + 2e-3;
      const out = (15 * 15) / 40;
      const p = out + 0.1 + 0.2 * (15 / 40);
      const boost = (v - Math.sqrt(v * v - 4 * 0.04 * p)) / (2 * 0.04);
      return { total: buck + boost, buck, boost };
    };
    const [q, h] = [cell.capacityAh * 3600, 0.25];
    const rate = (z: number, v: number[]) => {
      const e = 3 * (ocv.at(z) - v[0]! - v[1]!);
      const r = (3 * r0.at(z)) / 2 + 0.08;
      let [low, high] = [e / 2, e];
      for (let k = 0; k < 60; k++) {
        const mid = (low + high) / 2;
        if (e - r * demand(mid).total > mid) low = mid;
        else high = mid;
      }
      const amps = demand(low);
      const i = amps.total / 2;
      const dv = branches.map((b, k) => (i - v[k]! / b.ohms.at(z)) / b.farads.at(z));
      return { dz: -i / q, dv, volts: low, amps, i };
    };
    let z = 1;
    let v = [0, 0];
    let time = 0;
    const sums = { buckLoss: 0, boostLoss: 0, series: 0, r0: 0 };
    for (;;) {
      const a = rate(z, v);
      if (a.volts + 0.08 * a.amps.total < 9) break;
      const half = v.map((x, k) => x + (a.dv[k]! * h) / 2);
      const m = rate(z + (a.dz * h) / 2, half);
      sums.buckLoss += (m.volts * m.amps.buck - 3 - 5 * (0.15 + 0.2e-3)) * h;
      sums.boostLoss += (m.volts * m.amps.boost - (15 * 15) / 40) * h;
      sums.series += 0.08 * m.amps.total ** 2 * h;
      sums.r0 += 6 * m.i * m.i * r0.at(z + (a.dz * h) / 2) * h;
      z += m.dz * h;
      v = v.map((x, k) => x + m.dv[k]! * h);
      time += h;
    }

    const buck = {
      ...defaultBuck('buck', 'pack', 5),
      dropoutResistance: 0,
      loss: { basis: 'efficiency' as const, efficiency: 0.9, quiescentCurrent: 2e-3 },
    };
    const ldo = { ...defaultLinear('ldo', 'buck', 3.3), quiescentCurrent: 0.2e-3 };
    const boost = {
      ...defaultBoost('boost', 'pack', 15),
      passResistance: 0,
      rectifierVolts: 0,
      loss: {
        basis: 'polynomial' as const,
        fixed: 0.1,
        perOutputAmp: 0.2,
        perInputAmp: 0,
        perInputAmpSquared: 0.04,
        quiescentCurrent: 0,
      },
    };
    const loads = [
      rail('buck', 'power', 3, 'p'),
      rail('ldo', 'current', 0.15, 'i'),
      rail('boost', 'resistance', 40, 'r'),
    ];
    const pack = { series: 3, parallel: 2, protection: seriesOhms(0.08, 3) };
    const run = simulate(thread({ cell, pack, stages: [buck, ldo, boost], loads }));
    expect(run.deadEnd.reason).toBe('cutoff');
    expect(Math.abs(run.deadEnd.time / time - 1)).toBeLessThan(2e-4);
    expect(energy(run, 'p') / ((3 * time) / WH)).toBeCloseTo(1, 3);
    expect(energy(run, 'r') / (((225 / 40) * time) / WH)).toBeCloseTo(1, 3);
    expect(energy(run, 'buck') / (sums.buckLoss / WH)).toBeCloseTo(1, 3);
    expect(energy(run, 'boost') / (sums.boostLoss / WH)).toBeCloseTo(1, 3);
    expect(energy(run, 'protection', 'resistance') / (sums.series / WH)).toBeCloseTo(1, 3);
    expect(energy(run, 'cells', 'resistance') / (sums.r0 / WH)).toBeCloseTo(1, 3);
    expect(energy(run, 'ldo', 'headroom') / ((1.7 * 0.15 * time) / WH)).toBeCloseTo(1, 3);
  });

  it('is of fourth order: half the step, a sixteenth of the error over the same stretch', () => {
    // A cell whose curves have no knots inside, two branches, constant power: everything is smooth.
    const flat = [0, 1];
    const cell = {
      ...plainCell(2, 3, 4.2, 0.08),
      branches: [{ soc: flat, ohms: [0.06, 0.02], farads: [400, 900] }],
      selfDischargePerMonth: 0.5,
    };
    const { plant } = instantAt(thread({ cell, loads: [load('power', 9)] }), 0.9);
    const stretch = (steps: number) => {
      const state = new CellState(plant.pack, 0.9);
      const step = new Step(plant, state);
      step.instant.solve(state, NaN);
      const march = (seconds: number, n: number) => {
        for (let k = 0; k < n; k++) {
          expect(step.solve(seconds / n)).toBe(true);
          step.accept();
        }
      };
      // The branch settles first: its jump at the start has no order.
      march(300, 300);
      march(1200, steps);
      return [state.soc, state.slow[0]!, state.volts];
    };
    const exact = stretch(2048);
    // Third order would be an eighth; finer steps end in the tolerances of their volts.
    const errors = [6, 12, 24].map((n) => stretch(n).map((x, k) => Math.abs(x - exact[k]!)));
    for (const k of [0, 1, 2]) {
      expect(errors[0]![k]! / errors[1]![k]!).toBeGreaterThan(10);
      expect(errors[1]![k]! / errors[2]![k]!).toBeGreaterThan(10);
    }
  });
});

describe('events', () => {
  it('mode changes are located: a buck-boost passes from buck over both to boost at its duty limits', () => {
    const stage = { ...defaultBuckBoost('s', 'pack', 10), bothLoss: 0.02 };
    const doc = thread({
      pack: { series: 3, protection: seriesOhms(0.05, 2.8) },
      stages: [stage],
      loads: [rail('s', 'current', 0.5, 'l')],
    });
    const run = simulate(doc);
    expect(run.stageModes.s!.map((m) => m.mode)).toEqual(['buck', 'both', 'boost']);
    const vin = column(run.series, stageColumn(0) + STAGE_ROW.inputVolts);
    // (10 + 0.5·0.08)/0.93 and 0.92·10 + 0.5·0.08/0.92
    const at = (time: number) => vin[rowAt(run.series, time)]!;
    expect(at(run.stageModes.s![1]!.from)).toBeCloseTo(10.04 / 0.93, 3);
    expect(at(run.stageModes.s![2]!.from)).toBeCloseTo(9.2 + 0.04 / 0.92, 3);
  });

  it('a locked-out stage stays off while its load alone pulls the pack down, and is reported as cycling', () => {
    const stage = { ...defaultBuck('s', 'pack', 3.3), minInput: 7, hysteresis: 0.05 };
    const doc = thread({
      pack: { series: 2, protection: seriesOhms(0.3, 2.5) },
      stages: [stage],
      loads: [rail('s', 'power', 6, 'l')],
    });
    const run = simulate(doc);
    const off = run.stageModes.s!.findIndex((m) => m.mode === 'lockedOut');
    expect(off).toBeGreaterThan(0);
    expect(run.stageModes.s!.slice(off).every((m) => m.mode === 'lockedOut')).toBe(true);
    expect(run.cycling).toMatchObject([{ stage: 's' }]);
    expect(run.usefulEnd).toMatchObject({
      load: { id: 'l', side: 'low', volts: 0 },
      stage: { id: 's', mode: 'lockedOut' },
    });
    // The pack recovers by less than half a volt: with more hysteresis than that it is never tried again.
    const wide = simulate({ ...doc, stages: [{ ...stage, hysteresis: 0.5 }] });
    expect(wide.stageModes.s!.map((m) => m.mode)).toEqual(['buck', 'lockedOut']);
    expect(wide.cycling).toEqual([]);
  });

  it('a stage starts again when another one lets go and the pack recovers above its restart volts', () => {
    const small = { ...defaultBuck('small', 'pack', 3.3), minInput: 7, hysteresis: 0.1 };
    const large = { ...defaultBuck('large', 'pack', 5), minInput: 6.6, hysteresis: 2, outputLimit: 20 };
    const doc = thread({
      pack: { series: 2, protection: seriesOhms(0.25, 2.2) },
      stages: [small, large],
      loads: [rail('small', 'current', 0.1, 'a'), rail('large', 'power', 20, 'b')],
    });
    const modes = simulate(doc).stageModes.small!.map((m) => m.mode);
    expect(modes.slice(0, 3)).toEqual(['buck', 'lockedOut', 'buck']);
  });

  it('a rail that collapses under constant power is latched off; the rest runs on', () => {
    const weak = { ...defaultBoost('weak', 'pack', 12), inputLimit: 2.2, rectifierVolts: 0.4 };
    const doc = thread({
      pack: { series: 2, protection: seriesOhms(0.05, 2.5) },
      stages: [weak, defaultLinear('ok', 'pack', 3.3)],
      loads: [rail('weak', 'power', 13.4, 'a'), rail('ok', 'current', 0.1, 'b')],
    });
    const run = simulate(doc);
    expect(run.stageModes.weak!.map((m) => m.mode)).toContain('currentLimit');
    expect(run.loadRanges.b!.map((r) => r.state)).toEqual(['in']);
    expect(run.ledgerAtDead.closure).toBeLessThan(1e-6);
    const hopeless = { ...defaultBuck('weak', 'pack', 5), outputLimit: 0.5 };
    const stuck = simulate({ ...doc, stages: [hopeless, doc.stages[1]!] });
    expect(stuck.stageModes.weak!.map((m) => m.mode)).toEqual(['collapsed']);
    expect(stuck.usefulEnd.time).toBe(0);
  });

  it('no protection: the run goes on to empty cells; nothing drawing: it ends at once', () => {
    const dry = simulate(thread({ loads: [load('current', 0.5)] }));
    expect(dry.deadEnd.reason).toBe('empty');
    expect(dry.ledger.left).toBeLessThan(1e-6 * dry.ledger.stored);
    expect(simulate(thread({ loads: [] })).deadEnd).toMatchObject({ reason: 'nothingDraws', time: 0 });
  });
});

describe('idle', () => {
  const stages = [
    { ...defaultBuck('rail', 'pack', 5), shutdownCurrent: 1e-6 },
    { ...defaultLinear('child', 'rail', 3.3) },
    { ...defaultDirect('wire', 'pack') },
    { ...defaultLinear('always', 'wire', 3.3), quiescentCurrent: 40e-6 },
  ];
  const loads = [rail('child', 'current', 0.1, 'a'), rail('always', 'current', 0.05, 'b')];
  const board = { ...seriesOhms(0.02, 2.6), quiescentCurrent: 6e-6 };

  it('a shut-down stage feeds nothing below it; every element is named', () => {
    const { idle } = simulate(thread({ pack: { series: 2, protection: board }, stages, loads }));
    expect(idle.amps).toBeCloseTo(1e-6 + 40e-6 + 6e-6, 12);
    expect(idle.items.map((i) => i.element)).toEqual(['always', 'protection', 'rail']);
  });

  it('a disconnect leaves its leakage, and the board unless it stands before it', () => {
    const amps = (beforeProtection: boolean) => {
      const disconnect = { resistance: 0.01, leakage: 2e-7, beforeProtection };
      return simulate(thread({ pack: { series: 2, protection: board, disconnect }, stages, loads })).idle
        .amps;
    };
    expect(amps(false)).toBeCloseTo(6.2e-6, 12);
    expect(amps(true)).toBeCloseTo(2e-7, 12);
  });
});

describe('results', () => {
  it('a result carries the grade of its worst input and names it', () => {
    const [doc] = demoThreads();
    const run = simulate(doc!);
    expect(run.grade).toBe('claimed');
    expect(run.gradeFrom[0]!.grade).toBe('claimed');
    const better = structuredClone(doc!);
    better.pack.protection!.grade = 'measured';
    better.stages[1]!.grade = 'published';
    expect(simulate(better).grade).toBe('typical');
  });

  it('left behind is the integral of the OCV from the end voltage at rest up to the charge at the stop', () => {
    const cell = { ...plainCell(2, 3, 4, 0.05), endVolts: 3.2 };
    const doc = thread({ cell, loads: [load('current', 1, { range: { min: 3.5, max: 5 } })] });
    const run = simulate(doc);
    // Stops at OCV 3.55 (0.05 V over R0): ∫ from 3.2 to 3.55 V, straight: mean 3.375 V over 0.35 of 2 Ah.
    expect(run.leftBehind / WH).toBeCloseTo(3.375 * 0.35 * 2, 4);
    expect(run.worstCell.amps).toBeCloseTo(1, 10);
    expect(run.worstCell.rate).toBeCloseTo(0.5, 10);
  });

  it('CSV: a row an instant, names defused, modes in words', () => {
    const [doc] = demoThreads();
    const run = simulate(doc!);
    const named = {
      ...doc!,
      loads: doc!.loads.map((l, k) => ({ ...l, name: k === 0 ? '=SUM(A1), "lamp"' : l.name })),
    };
    const lines = seriesCsv(named, run.series).trimEnd().split('\r\n');
    expect(lines.length).toBe(run.series.count + 1);
    expect(lines[0]).toContain(`"'=SUM(A1), ""lamp"" (V)"`);
    expect(Number(lines[1]!.split(',')[ROW.packVolts])).toBeCloseTo(run.series.data[ROW.packVolts]!, 6);
    expect(lines.at(-1)).toContain('dropout');
    expect(packSource(doc!.pack).elements.map((e) => e.id)).toEqual([
      'protection',
      'fuse',
      'leads',
      'connectors',
    ]);
  });
});

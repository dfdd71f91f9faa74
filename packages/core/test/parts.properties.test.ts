import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyRecord,
  decodeRecord,
  decodeThread,
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  defaultSepic,
  efficiencyMap,
  encodeRecords,
  findings,
  CELL_LIBRARY,
  cellFileOf,
  cellsFromRows,
  parseCells,
  parseRecords,
  type CellFile,
  partsFor,
  readLossTable,
  recordRows,
  recordsFromRows,
  simulate,
  stageEnvelope,
  stageLibrary,
  type Converter,
  type LightLoad,
  type StageParts,
} from './core.ts';
import { leastInput, mostOutput } from '../src/sizing/limits.ts';
import { stressOf } from '../src/stages/parts/stress.ts';
import { MODES } from '../src/stages/modes.ts';
import { StagePoint } from '../src/stages/point.ts';
import { stageSolver } from '../src/stages/traits.ts';
import { partsLaw } from '../src/stages/traits.ts';
import { load, thread } from './build.ts';

const share = (min: number, max: number) => fc.double({ min, max, noNaN: true });

/** Any converter with parts, sensible or not, and a point to work at. */
const anyStage = fc
  .record({
    kind: fc.constantFrom('boost', 'buck', 'buckBoost', 'sepic'),
    vout: share(1.2, 30),
    ratio: share(0.25, 3),
    amps: share(0.002, 4),
    frequency: share(3e4, 3e6),
    light: fc.constantFrom<LightLoad>('forced', 'emulation', 'pulses'),
    diode: fc.boolean(),
    winding: share(0, 0.3),
    core: share(0, 0.2),
    integrated: fc.boolean(),
    iq: share(0, 0.01),
  })
  .map((r) => {
    const make = { boost: defaultBoost, buck: defaultBuck, buckBoost: defaultBuckBoost, sepic: defaultSepic };
    const base = make[r.kind as 'boost']('s', 'pack', r.vout) as Converter;
    base.minInput = 0;
    base.maxInput = 1000;
    base.loss.quiescentCurrent = r.iq;
    delete base.outputLimit;
    if ('rectifierVolts' in base) base.rectifierVolts = r.diode ? 0.4 : 0;
    const vin = r.vout * r.ratio;
    const parts = partsFor(base, { low: 0.8 * vin, high: 1.2 * vin }, r.amps, r.frequency) as StageParts;
    parts.lightLoad = r.light;
    parts.integrated = r.integrated;
    parts.inductor.resistance = r.winding;
    parts.inductor.coreLoss = r.core;
    return { stage: { ...base, parts } as Converter, vin, amps: r.amps };
  });

describe('stages with parts, sensible or not', () => {
  it('power balances to 1e-9, no loss is negative, nothing gives more than it takes, duty stays within limits', () => {
    let working = 0;
    fc.assert(
      fc.property(anyStage, fc.oneof(share(0.01, 1.5), fc.constant(0)), ({ stage, vin, amps }, part) => {
        const out = new StagePoint();
        const load = (part * amps) / stage.outputVolts;
        stageSolver(stage)(vin, (v) => load * v, out);
        const into = vin * out.inputAmps;
        const given = out.outputVolts * out.outputAmps;
        const lost = out.loss.reduce((a, b) => a + b, 0);
        expect(Number.isFinite(into)).toBe(true);
        expect(Math.abs(into - given - lost)).toBeLessThanOrEqual(1e-9 * (into + 1e-3));
        for (const l of out.loss) expect(l).toBeGreaterThanOrEqual(-1e-12 * (into + 1));
        expect(given).toBeLessThanOrEqual(into * (1 + 1e-12));
        const s = stressOf(partsLaw(stage), vin, out.outputVolts, out.outputAmps);
        if (!s || MODES[out.mode] === 'passThrough' || out.outputAmps === 0) return;
        working++;
        expect(s.duty).toBeGreaterThanOrEqual(0);
        const most = stage.kind === 'buckBoost' ? 1 : stage.maxDuty;
        // Discontinuous periods need less than the ceiling of continuous ones allows.
        expect(s.duty).toBeLessThanOrEqual(most + 1e-6);
        const { inductor } = s;
        expect(inductor.rms).toBeGreaterThanOrEqual(Math.abs(inductor.mean) * (1 - 1e-12));
        expect(inductor.peak).toBeGreaterThanOrEqual(inductor.valley);
      }),
      { numRuns: 1000, seed: 3 },
    );
    expect(working).toBeGreaterThan(300);
  });

  it('charge balances: what reaches the output is the load, over any period', () => {
    fc.assert(
      fc.property(anyStage, ({ stage, vin, amps }) => {
        const law = partsLaw(stage);
        const { inputAmps, flow, period } = law.at(vin, stage.outputVolts, amps);
        if (inputAmps === Infinity) return;
        if (period.share.some((x) => x < 0)) return;
        expect(Math.abs(period.burst * flow.meanD - amps)).toBeLessThan(2e-3 * amps);
      }),
      { numRuns: 250, seed: 4 },
    );
  });

  it('limits are monotone: more peak current never gives less, and more load never works from less input', () => {
    fc.assert(
      fc.property(anyStage, share(1, 3), ({ stage, vin, amps }, more) => {
        const law = partsLaw(stage);
        const bounds = { peak: 2 * amps, saturation: Infinity, output: Infinity, heat: Infinity };
        const a = mostOutput(law, vin, stage.outputVolts, bounds).amps;
        const b = mostOutput(law, vin, stage.outputVolts, { ...bounds, peak: 2 * amps * more }).amps;
        expect(b).toBeGreaterThanOrEqual(a * (1 - 1e-9));
        const low = leastInput(law, stage.outputVolts, amps, Infinity, 100).duty;
        const high = leastInput(law, stage.outputVolts, amps * more, Infinity, 100).duty;
        if (!Number.isNaN(high)) expect(high).toBeGreaterThanOrEqual(low * (1 - 1e-9));
      }),
      { numRuns: 300, seed: 5 },
    );
  });
});

describe('stage library', () => {
  const library = stageLibrary();
  it.each(library.map((r) => [r.name, r] as const))(
    '%s: is valid, runs with either depth, both agree',
    (_, record) => {
      expect(decodeRecord(record)).toMatchObject({ ok: true });
      const stage = applyRecord(record, { ...record.stage, id: 's', from: 'pack' });
      if (!('outputVolts' in stage)) throw new Error('regulated');
      const pack = {
        series:
          stage.outputVolts > 12
            ? 5
            : stage.outputVolts > 5
              ? 3
              : stage.maxInput < 8.5 || stage.kind === 'sepic'
                ? 1
                : 2,
      };
      const limit = { 'Large boost, 24 V 3 A from 4 to 6 cells': 1.5 }[record.name] ?? 0.1;
      const doc = thread({
        pack,
        stages: [stage],
        loads: [
          load('current', limit, {
            from: 's',
            range: { min: 0.9 * stage.outputVolts, max: 1.1 * stage.outputVolts },
          }),
        ],
      });
      expect(decodeThread(doc)).toMatchObject({ ok: true });
      const stated = simulate(doc);
      expect(stated.ledger.closure).toBeLessThan(1e-6);
      expect(stated.usefulEnd.time).toBeGreaterThan(600);
      if (!('parts' in stage) || !stage.parts) return;
      const withParts = simulate({
        ...doc,
        stages: [{ ...stage, parts: { ...stage.parts, used: true } } as Converter],
      });
      expect(withParts.ledger.closure).toBeLessThan(1e-6);
      expect(Math.abs(withParts.usefulEnd.time / stated.usefulEnd.time - 1)).toBeLessThan(0.04);
    },
  );

  it('cells too survive JSON and a table, whole; what their tables owe each other is refused by its place', () => {
    const cells = Object.values(CELL_LIBRARY).map(cellFileOf);
    const whole = { records: JSON.parse(JSON.stringify(cells)), refused: [] };
    expect(parseCells(encodeRecords(cells))).toEqual(whole);
    expect(cellsFromRows(recordRows(cells))).toEqual(whole);
    const [one] = JSON.parse(JSON.stringify(cells)) as CellFile[];
    one!.cell.ocv.volts[0] = 5;
    one!.cell.temperature = { capacity: { celsius: [10, 0], factors: [1, 1] }, grade: 'assumed' };
    const issues = parseCells(JSON.stringify(one)).refused[0]!.issues;
    expect(issues.map((i) => i.path)).toEqual(['cell.temperature.capacity.celsius', 'cell.ocv.volts']);
  });

  it('survives JSON and a table, whole', () => {
    expect(parseRecords(encodeRecords(library))).toEqual({
      records: JSON.parse(JSON.stringify(library)),
      refused: [],
    });
    expect(recordsFromRows(recordRows(library))).toEqual({
      records: JSON.parse(JSON.stringify(library)),
      refused: [],
    });
    const broken = recordRows(library).map((r, k) =>
      k === 1 ? r.map((c) => (c === 'linear' ? 'lamp' : c)) : r,
    );
    const read = recordsFromRows(broken);
    expect(read.records).toHaveLength(library.length - 1);
    expect(read.refused[0]!.issues[0]!.path).toBe('stage.kind');
    expect(parseRecords('{').refused[0]!.issues[0]!.code).toBe('syntax');
  });
});

describe('a stage over a run', () => {
  const boost: Converter = { ...defaultBoost('b', 'pack', 5), rectifierVolts: 0, inputLimit: 6 };
  boost.parts = partsFor(boost, { low: 2.8, high: 4.2 }, 1);
  const doc = thread({
    stages: [boost],
    loads: [load('current', 1, { from: 'b', range: { min: 4.8, max: 5.2 } })],
  });
  const run = simulate(doc);
  const envelope = stageEnvelope(doc, run, 'b');

  it('a boost is worst for its inductor at the empty end, and its run is the parts’ own', () => {
    const peak = envelope.figures.find((f) => f.id === 'inductorPeak')!;
    expect(peak.worstTime).toBeGreaterThan(0.95 * run.usefulEnd.time);
    expect(peak.worst).toBeCloseTo(peak.end, 6);
    expect(peak.full).toBeLessThan(peak.end);
    const spent = envelope.lost.reduce((a, l) => a + l.joules, 0);
    const out = run.ledger.entries.find((e) => e.mechanism === 'delivered')!.joules;
    expect(envelope.efficiency).toBeCloseTo(out / (out + spent), 3);
    for (const s of envelope.snapshots) {
      const lost = s.losses.reduce((a, b) => a + b, 0);
      expect(lost).toBeCloseTo(s.vin * s.iin - s.vout * s.iout, 6);
    }
    for (const f of envelope.figures) expect(envelope.snapshots[0]!.values[f.index]).toBe(f.full);
    // Without a load nothing switches: what is left of the table still reads its own values.
    const idle = { ...doc, loads: [] };
    const rest = stageEnvelope(idle, simulate(idle), 'b');
    expect(rest.figures.map((f) => f.id)).toEqual(['outputAmps', 'inputAmps', 'inputVolts']);
    for (const f of rest.figures) expect(rest.snapshots[0]!.values[f.index]).toBe(f.full);
    expect(envelope.modes[0]).toMatchObject({ mode: 'boost' });
    expect(envelope.heat.map((h) => h.air)).toEqual(['coldest', 'usual', 'warmest']);
  });

  it('more copper loss shortens the run, and a part past its rating is found', () => {
    const parts = {
      ...boost.parts!,
      inductor: { ...boost.parts!.inductor, resistance: 0.15, saturationCurrent: 1 },
    };
    const worse = { ...doc, stages: [{ ...boost, parts } as Converter] };
    const after = simulate(worse);
    expect(after.usefulEnd.time).toBeLessThan(run.usefulEnd.time);
    expect(findings(worse, after).find((f) => f.id === 'ratings:b')).toMatchObject({ severity: 'fails' });
    expect(findings(doc, run).find((f) => f.id === 'ratings:b')).toBeUndefined();
  });

  it('heat folds one package back: thermal limit is a mode', () => {
    const hot = { ...boost.parts!, thermalResistance: 900 };
    const folded = simulate({
      ...doc,
      stages: [{ ...boost, parts: hot } as Converter],
      loads: [load('resistance', 5, { from: 'b', range: { min: 4.8, max: 5.2 } })],
    });
    expect(folded.stageModes.b!.map((m) => m.mode)).toContain('thermalLimit');
    const at = envelope.heat.find((h) => h.air === 'usual')!;
    expect(at.celsius).toBeGreaterThan(25);
  });

  it('a filter behind the stage lowers the rail by its resistance', () => {
    const filter = { inductance: 1e-6, resistance: 0.1, capacitance: 1e-5, esr: 0.01 };
    const out = new StagePoint();
    stageSolver({ ...boost, parts: { ...boost.parts!, filter } } as Converter)(3.7, () => 1, out);
    expect(out.outputVolts).toBeCloseTo(4.9, 9);
    const filtered = {
      ...boost,
      parts: { ...boost.parts!, filter: { ...filter, resistance: 0.02 } },
    } as Converter;
    expect(simulate({ ...doc, stages: [filtered] }).ledger.closure).toBeLessThan(1e-6);
  });

  it('the stricter of listing and chip counts, and the difference is a finding', () => {
    const module: Converter = {
      ...defaultBoost('b', 'pack', 12),
      listing: { outputWatts: 25, inputAmps: 6 },
      chip: { outputWatts: 18 },
      inputLimit: 20,
    };
    const d = thread({
      pack: { series: 2 },
      stages: [module],
      loads: [load('resistance', 144 / 22, { from: 'b', range: { min: 11, max: 12.5 } })],
    });
    const r = simulate(d);
    expect(r.stageModes.b![0]!.mode).toBe('currentLimit');
    const f = findings(d, r).find((x) => x.id === 'listing:b')!;
    expect(f.reason.replace(/\u00a0/g, ' ')).toMatch(
      /2\.08 A \(25\.0 W\) at the output, the chip 1\.50 A \(18\.0 W\)/,
    );
    expect(f.severity).toBe('tight');
  });

  it('the map knows where the stage holds, and agrees with its parts', () => {
    const m = efficiencyMap(boost, { lowVolts: 2.8, highVolts: 4.2, leastAmps: 0.01, mostAmps: 20 }, 20, 25);
    const law = partsLaw(boost);
    m.amps.forEach((i, r) =>
      m.volts.forEach((v, k) => {
        const e = m.efficiency[r]![k]!;
        if (Number.isNaN(e)) return expect(i).toBeGreaterThan(m.most[k]! * 0.99);
        expect(e).toBeCloseTo((5 * i) / (v * law.at(v, 5, i).inputAmps), 9);
      }),
    );
    expect(m.most[19]!).toBeGreaterThan(m.most[0]!);
  });
});

describe('a table of readings', () => {
  it('reads names, units and per cent, refuses what cannot be, marks what stands out', () => {
    const rows = [
      ['Vin (V)', 'Load (mA)', 'Iin (mA)', 'remark'],
      ['9', '100', '61', ''],
      ['9', '300', '181', ''],
      ['9', '500', '275', 'impossible'],
      ['9', '600', '460', 'odd'],
      ['9', '1000', '615', ''],
      ['9,5', 'x', '1', ''],
      [''],
    ];
    const t = readLossTable(rows, 5);
    expect(t.points).toHaveLength(4);
    expect(t.points[0]).toEqual({ inputVolts: 9, outputAmps: 0.1, inputAmps: 0.061 });
    expect(t.refused.map((r) => r.line)).toEqual([4, 7]);
    expect(t.refused[0]!.reason).toMatch(/gives 2\.5 W and takes 2\.48 W/);
    expect(t.outliers.map((o) => o.point)).toEqual([2]);
    const bare = readLossTable(
      [
        ['12', '0.5', '91.5'],
        ['12', '1', '0.93'],
        ['12', '2', '101'],
      ],
      5,
    );
    expect(bare.points.map((p) => p.efficiency)).toEqual([0.915, 0.93]);
    expect(bare.refused[0]!.reason).toMatch(/101 %/);
  });
});

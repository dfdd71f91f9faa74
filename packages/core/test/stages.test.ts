import { describe, expect, it } from 'vitest';
import {
  MODES,
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  defaultDirect,
  defaultLinear,
  instantAt,
  type Pack,
  type Stage,
} from './core.ts';
import { awgArea, awgDiameter, awgResistance, copperFactor } from '../src/conductors/awg.ts';
import { class1Resistance, class5Resistance } from '../src/conductors/iec60228.ts';
import { leadResistance } from '../src/conductors/lead.ts';
import { nosePoint } from '../src/run/march/nose.ts';
import { pathAmps } from '../src/run/step/state.ts';
import { bothWindow } from '../src/stages/kinds/buckBoost.ts';
import { knee, oredRail, shockley } from '../src/stages/oring.ts';
import { StagePoint } from '../src/stages/point.ts';
import { stageSolver } from '../src/stages/traits.ts';
import { load, plainCell, seriesOhms, thread } from './build.ts';
import { cases, input, meets } from './cases.ts';

function at(stage: Stage, volts: number, rail: (v: number) => number) {
  const out = new StagePoint();
  stageSolver(stage)(volts, rail, out);
  const lost = out.loss.reduce((a, b) => a + b, 0);
  const balance = volts * out.inputAmps - out.outputVolts * out.outputAmps - lost;
  expect(Math.abs(balance)).toBeLessThan(1e-9 * (1 + volts * out.inputAmps));
  const { inputAmps, outputVolts, outputAmps, extended } = out;
  return { inputAmps, outputVolts, outputAmps, extended, mode: MODES[out.mode]! };
}

describe('linear stages against circuit simulation', () => {
  for (const c of cases('t1_linear')) {
    it(`${c.id}: ${c.description}`, () => {
      const stage = {
        ...defaultLinear('s', 'pack', input(c, 'vset')),
        dropoutVolts: input(c, 'v_dropout_constant', 0),
        dropoutResistance: input(c, 'r_dropout', 0),
        quiescentCurrent: input(c, 'iq'),
        outputLimit: 10,
        thermalResistance: 0, // the case states no fold-back
      };
      const r = at(stage, input(c, 'vin'), (v) => v / input(c, 'rload'));
      const nominal = input(c, 'iout_nominal');
      const lost = input(c, 'vin') * r.inputAmps - r.outputVolts * r.outputAmps;
      meets(c, {
        vout: r.outputVolts,
        in_regulation: r.mode === 'regulating',
        iin: r.inputAmps,
        pd: lost,
        eff: (r.outputVolts * r.outputAmps) / (input(c, 'vin') * r.inputAmps),
        vin_min: stage.outputVolts + stage.dropoutVolts + stage.dropoutResistance * nominal,
        tj: input(c, 'ta') + lost * input(c, 'theta_ja'),
      });
    });
  }
});

describe('modes of converters', () => {
  for (const c of cases('t3_limits').filter((x) => x.id.startsWith('lim-bb'))) {
    it(`${c.id}: ${c.description}`, () => {
      const amps = input(c, 'iout');
      const stage = {
        ...defaultBuckBoost('s', 'pack', input(c, 'vout')),
        pathResistance: input(c, 'rl') + 2 * input(c, 'rds_each'),
        maxBuckDuty: input(c, 'dmax_buck'),
        minBoostDuty: input(c, 'dmin_boost'),
        inputLimit: 100,
      };
      const { low, high } = bothWindow(stage);
      const modes = Object.keys(c.expected).filter((k) => k.startsWith('mode['));
      const asked = modes.map((k) => [k, at(stage, Number(/[\d.]+/.exec(k)![0]), () => amps).mode]);
      // Duty in the window is the parts' affair, and tested there.
      const elsewhere = Object.keys(c.expected).filter((k) => k.startsWith('dA'));
      const results = {
        vin_buck_boundary: high.volts + high.ohms * amps,
        vin_boost_boundary: low.volts + low.ohms * amps,
        vin_buck_boundary_ideal: high.volts,
        vin_boost_boundary_ideal: low.volts,
      };
      meets(c, { ...results, ...Object.fromEntries(asked) }, elsewhere);
    });
  }

  it('a boost passes its input through, less rectifier and resistance', () => {
    const stage = { ...defaultBoost('s', 'pack', 5), rectifierVolts: 0.4, passResistance: 0.09 };
    const r = at(stage, 6, (v) => v / 10);
    // Simulated: 6 V into 0.05 Ω, 0.04 Ω, a 0.4 V diode and 10 Ω gives 5.55005 V (switched circuit simulation).
    expect(r).toMatchObject({ mode: 'passThrough' });
    expect(r.outputVolts).toBeCloseTo(5.55005, 4);
  });

  it('a buck drops out at its maximum duty and follows the input', () => {
    const stage = { ...defaultBuck('s', 'pack', 5), maxDuty: 0.9, dropoutResistance: 0.1 };
    expect(at(stage, 5.7, () => 1).mode).toBe('buck'); // 0.9·5.7 − 0.1 = 5.03
    const low = at(stage, 5, () => 1);
    expect(low.mode).toBe('dropout');
    expect(low.outputVolts).toBeCloseTo(4.4, 9);
    // Constant power: V = 4.5 − 0.1·5/V, the higher root of V² − 4.5 V + 0.5 = 0.
    expect(at(stage, 5, (v) => 5 / v).outputVolts).toBeCloseTo((4.5 + Math.sqrt(18.25)) / 2, 8);
  });

  it('current limits fold a resistive output and collapse a constant-power one', () => {
    const stage = { ...defaultBuck('s', 'pack', 5), outputLimit: 1 };
    const folded = at(stage, 12, (v) => v / 2);
    expect(folded.mode).toBe('currentLimit');
    expect(folded.outputVolts).toBeCloseTo(2, 8);
    expect(at(stage, 12, (v) => 10 / v)).toMatchObject({ mode: 'collapsed', outputVolts: 0 });
    const boost = { ...defaultBoost('s', 'pack', 12), inputLimit: 3 };
    const limited = at(boost, 6, (v) => v / 6);
    expect(limited.mode).toBe('currentLimit');
    expect(limited.inputAmps).toBeCloseTo(3, 8);
  });

  it('a direct stage behind a constant-power load takes the high root', () => {
    const r = at({ ...defaultDirect('s', 'pack'), resistance: 0.12 }, 3.7, (v) => 8 / v);
    expect(r.outputVolts).toBeCloseTo(3.41924, 5); // case cpl-o1
  });

  it('readings are met exactly, loss is straight between them, and leaving them is marked', () => {
    const points = [
      { inputVolts: 8, outputAmps: 0.1, efficiency: 0.8 },
      { inputVolts: 8, outputAmps: 1, efficiency: 0.92 },
      { inputVolts: 12, outputAmps: 0.1, efficiency: 0.75 },
      { inputVolts: 12, outputAmps: 1, inputAmps: 5 / 12 / 0.9 },
    ];
    const stage: Stage = {
      ...defaultBuck('s', 'pack', 5),
      dropoutResistance: 0,
      loss: { basis: 'points', quiescentCurrent: 0, points },
    };
    const loss = (v: number, i: number) => {
      const r = at(stage, v, () => i);
      return { watts: v * r.inputAmps - 5 * i, extended: r.extended };
    };
    expect(loss(8, 1).watts).toBeCloseTo(5 / 0.92 - 5, 9);
    expect(loss(12, 1).watts).toBeCloseTo(5 / 0.9 - 5, 9);
    const ends = [loss(8, 0.1), loss(8, 1), loss(12, 0.1), loss(12, 1)].map((l) => l.watts);
    expect(loss(10, 0.55).watts).toBeCloseTo(ends.reduce((a, b) => a + b, 0) / 4, 9);
    expect(loss(10, 0.55).extended).toBe(false);
    expect(loss(10, 2).extended).toBe(true);
    expect(loss(10, 2).watts).toBeGreaterThan(loss(10, 1).watts);
    expect(loss(14, 1)).toEqual({ watts: loss(12, 1).watts, extended: true });
  });
});

describe('supplies that share a rail through diodes', () => {
  for (const c of cases('t10_oring')) {
    it(`${c.id}: ${c.description}`, () => {
      const bent = c.id.startsWith('or-sh');
      const each = [1, 2].map((k) =>
        bent
          ? shockley(input(c, `is${k}`), input(c, `n${k}`), input(c, 'rs'), input(c, 'temp'))
          : knee(input(c, 'vf'), input(c, `r${k}`) + input(c, 'rd')),
      );
      const amps = input(c, 'i_load');
      const r = oredRail([input(c, 'v1'), input(c, 'v2')], each, amps)!;
      const [i1, i2] = r.amps as [number, number];
      const drop = (i: number) => (bent ? 0 : input(c, 'vf') * i + input(c, 'rd') * i * i);
      meets(c, { v_out: r.volts, i1, i2, share1: i1 / amps, p_diodes: drop(i1) + drop(i2) });
      expect(oredRail([0.5, 0.5], each, 100)).toBeUndefined();
    });
  }
});

describe('conductors', () => {
  const [awg, wire, iec, run] = ['G-AWG-1', 'G-WIRE-1', 'G-IEC-1', 'G-IEC-2'].map((id) =>
    cases('G_conductors').find((c) => c.id === id)!,
  );
  it(`${awg!.id}: ${awg!.description}`, () => {
    const gauges = input(awg!, 'awg') as unknown as number[];
    meets(awg!, {
      diameter: gauges.map(awgDiameter),
      area: gauges.map(awgArea),
      resistance: gauges.map((g) => 1000 * awgResistance(g)),
    });
  });
  it(`${iec!.id}: ${iec!.description}`, () => {
    const sections = input(iec!, 'sections') as unknown as number[];
    meets(iec!, {
      class1: sections.map((s) => 1000 * class1Resistance(s)),
      class5: sections.map((s) => 1000 * class5Resistance(s)),
    });
  });
  it(`${wire!.id} and ${run!.id}: drop and loss of two-wire runs`, () => {
    const lead = (gaugeSystem: 'AWG' | 'mm²', c: typeof wire, name: string) => ({
      gaugeSystem,
      gauge: input(c!, name),
      length: input(c!, 'one_way_length'),
      parallel: 1,
      temperature: input(c!, 'temperature'),
    });
    const answers = (ohms: number, amps: number) => ({
      loop_resistance: ohms,
      drop: ohms * amps,
      loss: ohms * amps * amps,
    });
    const l = lead('AWG', wire, 'awg');
    const amps = input(wire!, 'current');
    const ohms = leadResistance(l);
    meets(
      wire!,
      {
        ...answers(ohms, amps),
        loop_resistance_20: leadResistance({ ...l, temperature: 20 }),
        drop_percent: (100 * ohms * amps) / input(wire!, 'source_voltage'),
      },
      ['loop_resistance_234_5_form'], // the other usual form of the same correction
    );
    expect(copperFactor(20)).toBe(1);
    meets(run!, answers(leadResistance(lead('mm²', run, 'section')), input(run!, 'current')));
  });
});

describe('a whole path at one instant, against circuit simulation', () => {
  const ideal = (volts: number, ohms: number) => plainCell(1000, volts - 1e-9, volts, ohms);

  for (const c of cases('t9_path').filter((x) => x.id.startsWith('cpl'))) {
    it(`${c.id}: ${c.description}`, () => {
      const doc = thread({
        cell: ideal(input(c, 'voc'), input(c, 'r_series')),
        loads: [load('power', input(c, 'p_load'))],
      });
      const { plant, state, instant } = instantAt(doc, 1);
      const found = instant.solve(state, NaN);
      const amps = pathAmps(plant.pack, state.amps);
      const solved = { v_load: found.volts, i: amps, p_loss: amps * amps * input(c, 'r_series') };
      const results = {
        solvable: found.status === 'converged',
        ...(found.status === 'converged' ? solved : {}),
        p_max: nosePoint(plant, state)!.watts,
      };
      meets(c, results, ['v_other_root']);
    });
  }

  for (const c of cases('t9_path').filter((x) => x.id.startsWith('path'))) {
    it(`${c.id}: ${c.description}`, () => {
      const wire = input(c, 'r_wire');
      const pack: Partial<Pack> = {
        protection: seriesOhms(input(c, 'r_protection')),
        fuse: { rating: 100, resistance: wire }, // any plain resistance in series stands for the wire
        connectors: { contacts: 1, contactResistance: input(c, 'r_contacts') },
      };
      const boost = {
        ...defaultBoost('boost', 'pack', input(c, 'vout')),
        loss: {
          basis: 'polynomial' as const,
          fixed: input(c, 'boost_pq'),
          perOutputAmp: 0,
          perInputAmp: input(c, 'boost_vs'),
          perInputAmpSquared: input(c, 'boost_r'),
          quiescentCurrent: 0,
        },
        minInput: 0.5,
        inputLimit: 100,
        passResistance: 0,
        rectifierVolts: 0,
      };
      const ldo = {
        ...defaultLinear('ldo', 'boost', input(c, 'v_ldo')),
        quiescentCurrent: input(c, 'iq_ldo'),
        outputLimit: 10,
        thermalResistance: 0, // the case states no fold-back
      };
      const loads = [
        load('current', input(c, 'i_direct'), { id: 'a', from: 'boost' }),
        load('current', input(c, 'i_ldo'), { id: 'b', from: 'ldo' }),
      ];
      const cell = ideal(input(c, 'voc'), input(c, 'r_cell'));
      const doc = thread({ cell, pack, stages: [boost, ldo], loads });
      const { plant, state, instant } = instantAt(doc, 1);
      const found = instant.solve(state, NaN);
      const { network } = plant.path;
      network.settle(0, found.volts);
      const [b, l] = network.points.map((p) => ({
        inputVolts: p.inputVolts,
        lost: p.inputVolts * p.inputAmps - p.outputVolts * p.outputAmps,
      }));
      const i = pathAmps(plant.pack, state.amps);
      const voc = input(c, 'voc');
      const out = doc.loads.reduce((s, _, k) => s + network.loadVolts[k]! * network.loadAmps[k]!, 0);
      const shares = ['r_cell', 'r_protection', 'r_wire', 'r_contacts'].map((n) => i * i * input(c, n));
      const lossless = voc * i - out - b!.lost - l!.lost - shares.reduce((x, y) => x + y, 0);
      meets(
        c,
        {
          solvable: found.status === 'converged',
          i_batt: i,
          v_boost_in: b!.inputVolts,
          p_batt: voc * i,
          p_ldo: l!.lost,
          p_boost: b!.lost,
          p_cell: shares[0],
          p_protection: shares[1],
          p_wire: shares[2],
          p_contacts: shares[3],
          eff_total: out / (voc * i),
          balance: lossless,
          p_out_max: mostFromBoost(doc),
        },
        [],
      );
    });
  }
});

/** [W] Largest output of the path's boost alone: all loads replaced by one of constant power on its rail. */
function mostFromBoost(doc: ReturnType<typeof thread>): number {
  const alone = { ...doc, stages: doc.stages.slice(0, 1), loads: [load('power', 1, { from: 'boost' })] };
  const { plant, state } = instantAt(alone, 1);
  return nosePoint(plant, state)!.loadWatts;
}

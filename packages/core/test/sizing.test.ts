import { describe, expect, it } from 'vitest';
import { defaultBoost, defaultBuck, defaultLinear } from './core.ts';
import { inputCurve } from '../src/sizing/inputs.ts';
import { awgArea, awgDiameter } from '../src/conductors/awg.ts';
import { circularMils, fuseFor, onderdonk, preece } from '../src/conductors/fuse.ts';
import { gaugeFor, traceFor } from '../src/conductors/trace.ts';
import {
  capacitanceForRelease,
  dutyFromEfficiency,
  edgeBoost,
  inductanceFor,
  inductorAmps,
  leastInductance,
  outputCapacitance,
  releaseOvershoot,
  stepDip,
  stepDipPi,
} from '../src/sizing/choose.ts';
import { criticalK, chargingVolts, idealDuty } from '../src/design/boundary.ts';
import { dividerSpread, findDividers, lockoutDivider } from '../src/design/divider.ts';
import { ceramic } from '../src/sizing/suggest.ts';
import { decade, E24, E96, nearest, seriesValues } from '../src/design/eSeries.ts';
import {
  bestDamping,
  filteredRipple,
  filterGain,
  filterPeak,
  resonance,
  toroidInductance,
  toroidTurns,
} from '../src/design/filter.ts';
import {
  edgeTimes,
  programmedAmps,
  programmingResistor,
  senseLimit,
  senseResistor,
} from '../src/design/programming.ts';
import { heatSink, junction, mostWatts, selfHeating } from '../src/design/thermal.ts';
import { cases, input, meets, type Case } from './cases.ts';

const topic = (file: string, ...ids: string[]) =>
  cases(file).filter((c) => ids.some((id) => c.id.startsWith(id)));
const named = (id: string) => cases('G_sizing').find((c) => c.id === id)!;
/** Several results named by their parameter, as the cases do: `L[52000Hz]`. */
const spread = (list: number[], at: (x: number) => Record<string, number>) =>
  Object.assign(
    {},
    ...list.map((x) => Object.fromEntries(Object.entries(at(x)).map(([k, v]) => [`${k}[${x}Hz]`, v]))),
  );

describe('inductance and capacitance over frequency', () => {
  for (const c of topic('t5_scaling', 'lscale')) {
    it(`${c.id}: ${c.description}`, () => {
      const shape = (c as unknown as { topology: 'buck' | 'boost' }).topology;
      const [vin, vout, iout, ratio] = ['vin', 'vout', 'iout', 'ripple_ratio'].map((n) => input(c, n)) as [
        number,
        number,
        number,
        number,
      ];
      const results = spread(input(c, 'f_list') as unknown as number[], (f) => {
        const L = inductanceFor(shape, vin, vout, iout, f, ratio);
        const ripple = (chargingVolts(shape, vin, vout) * idealDuty(shape, vin, vout)) / (L * f);
        const volts = 0.01 * vout;
        const farads = outputCapacitance(shape, vin, vout, iout, f, L, volts);
        return { L, dil: ripple, c_for_1pct_ripple: farads, vripple: volts };
      });
      expect(inductorAmps(shape, vin, vout, iout)).toBeCloseTo(
        shape === 'buck' ? iout : (iout * vout) / vin,
        9,
      );
      meets(c, { ...results, L_times_f: inductanceFor(shape, vin, vout, iout, 1, ratio) });
    });
  }
  it('the input that asks for most is the full pack of a buck and lies inside the range of a boost', () => {
    expect(leastInductance('buck', { low: 9, high: 12.6 }, 5, 1, 5e5, 0.35).vin).toBe(12.6);
    // Vin²·(1 − Vin/Vout)/Vout is largest at Vin = 2/3·Vout.
    expect(leastInductance('boost', { low: 5, high: 12 }, 12, 1, 5e5, 0.35).vin).toBeCloseTo(8, 1);
  });
  for (const c of topic('t5_scaling', 'lrel')) {
    it(`${c.id}: ${c.description}`, () => {
      const [vout, L, C, step] = ['vout', 'L', 'C', 'delta_i'].map((n) => input(c, n)) as [
        number,
        number,
        number,
        number,
      ];
      meets(c, {
        v_overshoot_exact: releaseOvershoot(vout, L, C, step),
        v_overshoot_simple: (L * step * step) / (2 * C * vout),
        c_for_3pct_simple: capacitanceForRelease(vout, L, step, 0.03 * vout),
      });
    });
  }
  for (const c of topic('t5_scaling', 'lstep')) {
    it(`${c.id}: ${c.description}`, () => {
      const [step, fc, C, z] = ['delta_i', 'f_c', 'C', 'zero_ratio'].map((n) => input(c, n)) as [
        number,
        number,
        number,
        number,
      ];
      meets(c, { dv_rule: stepDip(step, fc, C), dv_exact_pi: stepDipPi(step, fc, C, z) });
    });
  }
});

describe('published design equations', () => {
  for (const c of topic('t4_published', 'pub-duty')) {
    it(`${c.id}: ${c.description}`, () => {
      const shape = (c as unknown as { topology: 'buck' | 'boost' }).topology;
      const eff = (c.expected.eff_conduction as { value: number }).value;
      const duty = dutyFromEfficiency(shape, input(c, 'vin'), input(c, 'vout'), eff);
      const wrong = (c.expected.duty_wrong_variant as { value: number }).value;
      expect(Math.abs(duty - wrong)).toBeGreaterThan(0.01);
      meets(c, { duty_from_eff: duty }, ['duty_wrong_variant', 'eff_conduction', 'vout']);
    });
  }
  for (const c of topic('t4_published', 'pub-bcm')) {
    it(`${c.id}: ${c.description}`, () => {
      const r = edgeBoost({
        vin: input(c, 'vin_min'),
        vout: input(c, 'vout'),
        iout: input(c, 'iout'),
        frequency: input(c, 'f_min'),
        switchVolts: input(c, 'vsat'),
        diodeVolts: input(c, 'vf'),
        ripple: input(c, 'v_ripple'),
      });
      meets(
        c,
        {
          ton_over_toff: r.ratio,
          t_on: r.onTime,
          i_pk: r.peak,
          L_min: r.inductance,
          r_sc: r.sense,
          c_out: r.output,
          c_t: r.timing,
        },
        ['vout'], // the simulator's own output at these values
      );
    });
  }
  for (const c of topic('t4_published', 'pub-div')) {
    it(`${c.id}: ${c.description}`, () => {
      meets(c, { vout: dividerSpread(input(c, 'vref'), 0, input(c, 'r1'), input(c, 'r2'), 0).nominal });
    });
  }
  it('textbook constants of the boost', () => {
    const [c] = topic('t4_published', 'pub-em') as [Case];
    const duties = Array.from({ length: 9999 }, (_, k) => (k + 1) / 1e4);
    const best = duties.reduce((a, d) => (criticalK('boost', d) > criticalK('boost', a) ? d : a));
    const ratio = (r: number) => Math.max(...duties.map((d) => 1 / (1 - d) / (1 + r / (1 - d) ** 2)));
    meets(c, {
      kcrit_boost_max: criticalK('boost', best),
      d_at_max: best,
      mmax_rl_0p01: ratio(0.01),
      mmax_rl_0p1: ratio(0.1),
      mmax_rl_0p001: ratio(0.001),
    });
  });
  for (const c of cases('t2_overlap')) {
    it(`${c.id}: ${c.description}`, () => {
      const t = edgeTimes({
        volts: input(c, 'v'),
        amps: input(c, 'i'),
        drive: input(c, 'v_drive'),
        threshold: input(c, 'vth'),
        gain: input(c, 'kp'),
        gateSource: input(c, 'cgs'),
        gateDrain: input(c, 'cgd'),
        gateOhms: input(c, 'rg'),
      });
      const rate = input(c, 'v') * input(c, 'i') * input(c, 'f');
      const whole = t.currentRise + t.voltageFall + t.voltageRise + t.currentFall;
      meets(c, {
        p_overlap: 0.5 * rate * whole,
        t_current_rise: t.currentRise,
        t_voltage_fall: t.voltageFall,
        t_voltage_rise: t.voltageRise,
        t_current_fall: t.currentFall,
        p_overlap_refined:
          rate * (0.5 * (t.voltageFall + t.voltageRise) + (t.currentRise + t.currentFall) / 3),
      });
    });
  }
});

describe('preferred values, dividers, programming', () => {
  it('IEC 60063', () => {
    meets(topic('t6_feedback', 'iec')[0]!, {
      E24: E24.map((v) => Math.round(10 * v)),
      E96: E96.map((v) => Math.round(100 * v)),
    });
    meets(named('G-E-TABLE'), { E24, E96 });
    const c = named('G-E-1');
    const targets = input(c, 'targets') as unknown as number[];
    const pick = (steps: readonly number[]) => targets.map((t) => nearest(steps, t));
    const error = (steps: readonly number[]) => pick(steps).map((v, k) => v / targets[k]! - 1);
    meets(c, {
      E24: pick(E24),
      E96: pick(E96),
      E24_geometric: pick(E24),
      error_E24: error(E24),
      error_E96: error(E96),
    });
  });
  for (const c of topic('t6_feedback', 'div')) {
    it(`${c.id}: ${c.description}`, () => {
      const [reference, target, rTol, vTol] = ['vref', 'vout_target', 'r_tol', 'vref_tol'].map((n) =>
        input(c, n),
      ) as [number, number, number, number];
      const found = findDividers({
        reference,
        target,
        leastAmps: input(c, 'i_div_min'),
        mostAmps: input(c, 'i_div_max'),
        series: input(c, 'series') as unknown as 'E96',
        resistorTolerance: rTol,
        referenceTolerance: vTol,
      });
      const best = found[0]!;
      const s = dividerSpread(reference, vTol, best.top, best.bottom, rTol);
      const pairs = (c.expected.best_pairs as unknown as { value: [number, number][] }).value;
      expect(pairs).toContainEqual([best.top, best.bottom]);
      expect(best.amps).toBeGreaterThanOrEqual(input(c, 'i_div_min'));
      meets(
        c,
        {
          vout: best.volts,
          best_error_rel: best.error,
          i_divider: best.amps,
          vout_wc_max: s.most,
          vout_wc_min: s.least,
          rss_rel: s.likely / s.nominal,
          mc_uniform_sigma_rel: s.likely / s.nominal / Math.sqrt(3),
          mc_gauss_sigma_rel: s.likely / s.nominal / 3,
        },
        ['best_pairs', 'runner_up', 'mc_uniform_p0135_p99865'], // any of the pairs; percentiles of their Monte Carlo
      );
    });
  }
  it('G-DIV-1 and G-SPREAD-1', () => {
    const c = named('G-DIV-1');
    const [reference, target] = [input(c, 'reference'), input(c, 'output')];
    const best = (series: 'E24' | 'E96') =>
      findDividers({
        reference,
        target,
        leastAmps: reference / input(c, 'bottom_max'),
        mostAmps: reference / input(c, 'bottom_min'),
        series,
        resistorTolerance: 0,
        referenceTolerance: 0,
      })[0]!;
    meets(c, {
      best_abs_error_E24: Math.abs(best('E24').volts - target),
      output_E24: best('E24').volts,
      best_abs_error_E96: Math.abs(best('E96').volts - target),
      output_E96_error_signed: best('E96').volts - target,
    });
    const s = named('G-SPREAD-1');
    const r = dividerSpread(
      input(s, 'reference'),
      input(s, 'reference_tolerance'),
      input(s, 'top'),
      input(s, 'bottom'),
      input(s, 'top_tolerance'),
    );
    meets(s, {
      nominal: r.nominal,
      worst_high: r.most,
      worst_low: r.least,
      rss_one_sided: r.likely,
      spread_percent_high: 100 * (r.most / r.nominal - 1),
      spread_percent_low: 100 * (r.least / r.nominal - 1),
      divider_current: input(s, 'reference') / input(s, 'bottom'),
    });
  });
  it('a lock-out divider gives back the volts it was made for', () => {
    const [on, off, pin, amps] = [9.6, 9, 1.2, 2e-6];
    const d = lockoutDivider(on, off, pin, amps);
    // Falling: the pin at its threshold, no extra current. Rising: the pin sinks `amps` besides.
    expect((pin / d.bottom) * d.top + pin).toBeCloseTo(off, 9);
    expect((pin / d.bottom + amps) * d.top + pin).toBeCloseTo(on, 9);
    expect(d.amps).toBeCloseTo(pin / d.bottom, 12);
  });
  for (const c of topic('t6_feedback', 'cs')) {
    it(`${c.id}: ${c.description}`, () => {
      const [v, vt, r, rt, ripple] = ['v_sense', 'v_sense_tol', 'r_cs', 'r_tol', 'dil'].map((n) =>
        input(c, n),
      ) as [number, number, number, number, number];
      const s = senseLimit(v, vt, r, rt, ripple);
      expect(senseLimit(v, vt, senseResistor(v, vt, rt, 3), rt, 0).least).toBeCloseTo(3, 9);
      meets(c, {
        i_limit_peak: s.peak,
        v_drop: v,
        i_limit_min: s.least,
        i_limit_max: s.most,
        i_avg_at_limit: s.mean,
        p_sense_at_limit: s.watts,
      });
    });
  }
  for (const c of topic('t6_feedback', 'chg')) {
    it(`${c.id}: ${c.description}`, () => {
      const amps = programmedAmps(input(c, 'k'), input(c, 'rprog'));
      const watts = (input(c, 'vin') - input(c, 'vbat')) * amps;
      meets(c, {
        i_charge: amps,
        p_heat: watts,
        tj: junction(input(c, 'ta'), input(c, 'theta_ja'), watts),
        rprog_for_half: programmingResistor(input(c, 'k'), amps / 2),
      });
    });
  }
  it('no value below nothing: an impossible range is refused, never searched without end', () => {
    for (const [least, most] of [
      [0, 1],
      [-1, 1],
      [NaN, 1],
      [1, Infinity],
      [2, 1],
    ] as const) {
      expect(() => seriesValues(E24, least, most)).toThrow(RangeError);
    }
    for (const farads of [0, NaN, -1, Infinity]) expect(ceramic(farads, 5).count).toBeGreaterThan(0);
  });
  it('every series rises and starts at one', () => {
    for (const name of ['E24', 'E96', 'E96+E24'] as const) {
      const d = decade(name);
      expect(d[0]).toBe(1);
      d.slice(1).forEach((v, k) => expect(v).toBeGreaterThan(d[k]!));
    }
  });
});

describe('heat', () => {
  for (const c of topic('t7_thermal', 'th-o')) {
    it(`${c.id}: ${c.description}`, () => {
      const [p, ta, ja, max, jc, cs] = ['p', 'ta', 'theta_ja', 'tj_max', 'theta_jc', 'theta_cs'].map((n) =>
        input(c, n),
      ) as [number, number, number, number, number, number];
      const sink = heatSink(ta, p, max, ja, jc, cs);
      // The case also gives the chain's value where no sink is needed.
      const chain = (max - ta) / p - jc - cs;
      expect(sink ?? chain).toBe(chain);
      meets(c, {
        tj_no_sink: junction(ta, ja, p),
        sink_required: sink !== undefined,
        theta_sa_max: chain,
        tj_with_sink: junction(ta, jc + cs + chain, p),
        p_max_no_sink: mostWatts(ta, ja, max),
      });
    });
  }
  for (const c of topic('t7_thermal', 'th-rds')) {
    it(`${c.id}: ${c.description}`, () => {
      const [i, r, a, ta, ja] = ['i_rms', 'r25', 'alpha', 'ta', 'theta_ja'].map((n) => input(c, n)) as [
        number,
        number,
        number,
        number,
        number,
      ];
      const s = selfHeating(i, r, a, ta, ja);
      expect(selfHeating(1.001 * s.runaway, r, a, ta, ja).settled).toBeUndefined();
      meets(c, {
        runaway: s.settled === undefined,
        tj: s.settled?.junction,
        p: s.settled?.watts,
        i_runaway: s.runaway,
      });
    });
  }
});

describe('output filter', () => {
  for (const c of topic('t8_filter', 'lc')) {
    it(`${c.id}: ${c.description}`, () => {
      const al = input(c, 'al') * 1e-9;
      const L = toroidInductance(al, input(c, 'turns'));
      expect(toroidTurns(al, L)).toBe(input(c, 'turns'));
      const f = {
        inductance: L,
        resistance: input(c, 'dcr'),
        capacitance: input(c, 'C'),
        esr: input(c, 'esr'),
        ...(c.inputs.C_damp
          ? { dampingCapacitance: input(c, 'C_damp'), dampingResistance: input(c, 'R_damp') }
          : {}),
      };
      const place = { source: input(c, 'r_source'), load: input(c, 'r_load') };
      const fsw = input(c, 'f_sw');
      const db = (g: number) => 20 * Math.log10(g);
      const peak = filterPeak(f, place);
      meets(c, {
        L,
        f0: resonance(f),
        gain_db_at_fsw: db(filterGain(f, place, fsw)),
        peak_gain_db: db(peak.gain),
        peak_freq: peak.frequency,
        residual_ripple_pp: filteredRipple(f, place, fsw, input(c, 'v_ripple_pp'), input(c, 'duty')),
        gain_db_simple: -db((fsw / resonance(f)) ** 2 - 1),
      });
    });
  }
  for (const c of topic('t8_filter', 'damp')) {
    it(`${c.id}: ${c.description}`, () => {
      const d = bestDamping(input(c, 'L'), input(c, 'C'), input(c, 'n'));
      meets(c, { r0: d.characteristic, r_damp_opt: d.resistance, z_out_peak: d.peak });
    });
  }
});

describe('input volts over the load', () => {
  it('a linear stage needs its dropout, a buck its duty, a boost passes through above its set volts', () => {
    const linear = {
      ...defaultLinear('s', 'pack', 3.3),
      dropoutVolts: 0.2,
      dropoutResistance: 0.5,
      outputLimit: 9,
      thermalResistance: 0,
    };
    const l = inputCurve(linear, 1, 25);
    expect(l.least.at(-1)).toBeCloseTo(3.3 + 0.2 + 0.5, 4);
    const buck = { ...defaultBuck('s', 'pack', 5), maxDuty: 0.9, dropoutResistance: 0.1 };
    expect(inputCurve(buck, 1, 25).least.at(-1)).toBeCloseTo((5 + 0.1) / 0.9, 4);
    const boost = {
      ...defaultBoost('s', 'pack', 5),
      rectifierVolts: 0.3,
      passResistance: 0.1,
      maxDuty: 0.8,
      inputLimit: 50,
    };
    const b = inputCurve(boost, 1, 25);
    expect(b.passesFrom!.at(-1)).toBeCloseTo(5 + 0.3 + 0.1, 4);
    expect(b.least.at(-1)).toBeCloseTo((5 + 0.3) * (1 - 0.8), 4);
  });
});

describe('wire, trace, fuse', () => {
  it('G-TRACE-1', () => {
    const c = named('G-TRACE-1');
    const t = traceFor(
      input(c, 'current'),
      input(c, 'rise'),
      input(c, 'copper'),
      false,
      input(c, 'length') / 1000,
      input(c, 'ambient'),
    );
    meets(c, {
      area: t.area / 25.4e-6 ** 2,
      width: t.width / 25.4e-6,
      width_mm: t.width * 1000,
      resistance: t.resistance,
      drop: t.drop,
    });
  });
  it('G-FUSE-1', () => {
    const c = named('G-FUSE-1');
    const area = awgArea(input(c, 'awg'));
    meets(c, {
      onderdonk: onderdonk(area, input(c, 'time'), input(c, 'ambient')),
      preece: preece(awgDiameter(input(c, 'awg')) / 1000),
      circular_mils: circularMils(area),
    });
  });
  it('a fuse carries three quarters for long, and the wire for a current keeps its drop', () => {
    expect(fuseFor(3, 3, 0)).toBe(4);
    expect(fuseFor(3, 7, 0)).toBe(5);
    expect(fuseFor(100, 100, 0)).toBeUndefined();
    const gauge = gaugeFor(3, 0.5, 0.05)!;
    const drop = (g: number) => (2 * 0.5 * 0.017241 * 3) / awgArea(g);
    expect(drop(gauge)).toBeLessThanOrEqual(0.05);
    expect(drop(gauge + 1)).toBeGreaterThan(0.05);
  });
});

import { describe, expect, it } from 'vitest';
import { caseOf, input, meets } from '../../test/cases.ts';
import { chooseContract, rung, type LadderTask } from './contracts.ts';
import { leastFixed, programmedRange, turnFor } from './current.ts';
import { sourceLaw } from './source.ts';
import { contractOf } from './sources/contracts.ts';
import { throughReadings } from './sources/readings.ts';
import { setForWorst, spreadOf, stopVolts, varianceShares } from './volts.ts';

const H6 = 'H6_charging';

describe('contracts', () => {
  for (const id of ['H6-LAD-1', 'H6-LAD-2']) {
    const c = caseOf(H6, id);
    it(`${id}: ${c.description}`, () => {
      const offers = (c.inputs.contracts as { value: unknown }).value as [number, number][];
      const task: LadderTask = {
        offers: offers.map(([volts, amps]) => ({ volts, amps })),
        wire: input(c, 'cable_resistance'),
        full: input(c, 'pack_full_voltage'),
        headroom: input(c, 'headroom'),
        wanted: input(c, 'wanted_current'),
        volts: input(c, 'pack_voltage_now'),
        efficiency: input(c, 'charger_efficiency'),
        share: input(c, 'use_at_most'),
      };
      const best = chooseContract(task)!;
      const drop = best.volts - best.inputVolts;
      meets(c, {
        contract: best.volts,
        full_current: best.whole,
        usable_contracts: task.offers.map((o) => rung(task, o)).flatMap((r) => (r.usable ? [r.volts] : [])),
        source_current: best.sourceAmps,
        charger_input_voltage: best.inputVolts,
        cable_drop: drop,
        cable_loss: drop * best.sourceAmps,
        charge_current: best.chargeAmps,
        source_power: best.volts * best.sourceAmps,
      });
    });
  }

  it('gives what is nearest below what nobody offers, and steps of a programmable offer', () => {
    const offers = [
      { volts: 5, amps: 3 },
      { volts: 9, amps: 3 },
      { volts: 20, amps: 2.25 },
      { volts: 11, amps: 3, least: 3.3, step: 0.02 },
    ];
    expect(contractOf({ offers, asks: 9 })).toEqual({ volts: 9, amps: 3, asAsked: true });
    expect(contractOf({ offers, asks: 12 })).toEqual({ volts: 11, amps: 3, asAsked: false });
    expect(contractOf({ offers: offers.slice(0, 3), asks: 12 })).toEqual({
      volts: 9,
      amps: 3,
      asAsked: false,
    });
    expect(contractOf({ offers: offers.slice(0, 3), asks: 3 })).toEqual({
      volts: 5,
      amps: 3,
      asAsked: false,
    });
    const step = contractOf({ offers, asks: 8.409 });
    expect(step.asAsked).toBe(true);
    // 3.3 V and 255 steps of 20 mV
    expect(step.volts).toBeCloseTo(8.4, 9);
  });
});

describe('adapters by their readings', () => {
  it('25.1 V at 1 A, 24.9 V at 1.5 A, 24.7 V at 2 A droop like 0.4 Ω: common practice, no source', () => {
    const readings = [
      { amps: 1, volts: 25.1 },
      { amps: 1.5, volts: 24.9 },
      { amps: 2, volts: 24.7 },
    ];
    const line = throughReadings(readings);
    expect(line.droop).toBeCloseTo(0.4, 9);
    expect(line.volts).toBeCloseTo(25.5, 9);
    expect(line.off).toBeLessThan(1e-9);
    const curve = sourceLaw({
      name: 'Adapter',
      kind: 'readings',
      readings,
      limit: 2.5,
      beyond: 'soft',
      grade: 'measured',
    });
    expect(curve).toMatchObject({ open: line.volts, droop: line.droop, limit: 2.5 });
  });

  it('a droop that rises with the current counts as none', () => {
    const line = throughReadings([
      { amps: 0, volts: 5 },
      { amps: 1, volts: 5.02 },
    ]);
    expect(line).toMatchObject({ droop: 0, volts: 5.01 });
  });
});

describe('what a charger is set to', () => {
  it('H6-POT-1: a current by a potentiometer and its end resistor', () => {
    const c = caseOf(H6, 'H6-POT-1');
    const set = {
      factor: input(c, 'K'),
      factorTolerance: input(c, 'K_tolerance'),
      fixed: input(c, 'end_resistor'),
      fixedTolerance: input(c, 'end_tolerance'),
      pot: input(c, 'pot'),
      potTolerance: input(c, 'pot_tolerance'),
    };
    const turn = turnFor(set, input(c, 'wanted'))!;
    const { range, rangeWorst } = programmedRange(set);
    const there = programmedRange({ ...set, turn });
    const limit = input(c, 'cell_limit');
    meets(c, {
      current_nominal_range: [range.least, range.most],
      current_worst_range: [rangeWorst.least, rangeWorst.most],
      wiper_for_wanted: turn,
      current_worst_at_that_wiper: [there.worst.least, there.worst.most],
      exceeds_cell_limit: rangeWorst.most > limit,
      least_E24_end_resistor: leastFixed(set, limit),
      sensitivity_at_wanted: there.perTurn,
    });
    expect(turnFor(set, 2)).toBeUndefined();
  });

  it('by a table: its lines are met, K over R is one of its kind, turn and resistor are found back', () => {
    const table = [
      { ohms: 1000, amps: 1.2 },
      { ohms: 2000, amps: 0.6 },
      { ohms: 4000, amps: 0.4 },
    ];
    const base = { factor: 1, factorTolerance: 0, fixed: 1000, fixedTolerance: 0 };
    const at = (fixed: number) => programmedRange({ ...base, table, fixed }).set;
    expect([1000, 2000, 4000].map(at)).toEqual([1.2, 0.6, 0.4].map((v) => expect.closeTo(v, 12) as number));
    // Between the first two it is 1200 V over R, before them too.
    expect(at(1500)).toBeCloseTo(0.8, 9);
    expect(at(800)).toBeCloseTo(1.5, 9);
    const turned = { ...base, table, pot: 3000 };
    const turn = turnFor(turned, 0.5)!;
    expect(programmedRange({ ...turned, turn }).set).toBeCloseTo(0.5, 9);
    const slope = programmedRange({ ...turned, turn: 0.1 }).perTurn;
    expect(slope).toBeCloseTo((3000 * 1200) / 1300 ** 2, 4);
    expect(leastFixed({ ...base, table }, 0.6)).toBe(2000);
  });

  it('1.2 kΩ gives 1 A and 10 kΩ some 0.12 A of K = 1200 V: common practice, no source', () => {
    const set = (fixed: number) =>
      programmedRange({ factor: 1200, factorTolerance: 0, fixed, fixedTolerance: 0 }).set;
    expect(set(1200)).toBeCloseTo(1, 9);
    expect(set(10e3)).toBeCloseTo(0.12, 9);
  });

  it('H6-CV-1: volts by a divider from a reference', () => {
    const c = caseOf(H6, 'H6-CV-1');
    const resistorTolerance =
      input(c, 'resistor_tolerance') + input(c, 'resistor_drift') * input(c, 'temperature_span');
    const divider = {
      reference: input(c, 'reference'),
      referenceTolerance: input(c, 'reference_tolerance'),
      top: input(c, 'R1'),
      bottom: input(c, 'R2'),
      resistorTolerance,
      pinBias: 0,
    };
    const { nominal, least, most, likely } = spreadOf(divider);
    const { deviation, shares } = varianceShares(divider);
    meets(c, {
      nominal,
      worst: [least, most],
      rss: [nominal - likely, nominal + likely],
      per_cell_worst: [least / 2, most / 2],
      standard_deviation_if_uniform: deviation,
      set_nominal_so_that_worst_is_4p20: setForWorst({ set: nominal, most }, 8.4),
      shares,
    });
    const stage = { outputVolts: nominal } as never;
    const control = { current: 1, sense: 'output' as const, divider };
    expect(stopVolts({ stage, control })).toMatchObject({ set: nominal, least, most, from: 'divider' });
    const trimmed = stopVolts({ stage, control: { ...control, trimmed: { meter: 0.005, drift: 0.0025 } } })!;
    expect(trimmed.most).toBeCloseTo(nominal * 1.0075, 9);
    expect(trimmed.likelyMost).toBeLessThan(trimmed.most);
  });
});

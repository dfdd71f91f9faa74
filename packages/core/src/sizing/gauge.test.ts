import { describe, expect, it } from 'vitest';
import { caseOf, input, meets } from '../../test/cases.ts';
import { load, plainCell, seriesOhms, thread } from '../../test/build.ts';
import { findings } from '../checks/checks.ts';
import { CELL_LIBRARY } from '../cells/library.ts';
import { hysteresisOhms, ladderString, tapVolts } from '../design/ladder.ts';
import { applyEdits } from '../model/edit.ts';
import type { Gauge } from '../model/gauge.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { compile } from '../plant/compile.ts';
import { simulate } from '../run/rundown.ts';
import { gaugeReading, loadedSoc, suggestGauge } from './gauge.ts';

it('G-LADDER-1: taps, thresholds and the charge they stand for, at rest and under load', () => {
  const c = caseOf('G_sizing', 'G-LADDER-1');
  const { value: string } = c.inputs.string as unknown as { value: number[] };
  const taps = tapVolts(string, input(c, 'reference'));
  const thresholds = taps.map((v) => v / input(c, 'battery_divider'));
  const { pack } = compile(
    thread({ cell: CELL_LIBRARY['polymer-850-published']!, loads: [load('current', 0.1)] }),
  );
  const at = (amps: number) => thresholds.map((v) => loadedSoc(pack, v, { amps }));
  meets(c, {
    tap_voltages: taps,
    battery_thresholds: thresholds,
    soc_at_rest: at(0),
    soc_under_load: at(input(c, 'load_current')),
    string_current: input(c, 'reference') / string.reduce((a, b) => a + b),
  });
  // The other way round: the string from its taps, each to the nearest of E96.
  const again = ladderString(taps, input(c, 'reference'), 100e3);
  again.forEach((r, k) => expect(Math.abs(r / string[k]! - 1)).toBeLessThan(0.015));
});

describe('a gauge of its own pack', () => {
  const cell = { ...plainCell(2, 3, 4, 0.1), selfDischargePerMonth: 0.02 };
  const doc = (gauge: Partial<Gauge>, watts = 4): ThreadDocument => {
    const made = thread({ cell, pack: { protection: seriesOhms(0, 3.1) }, loads: [load('power', watts)] });
    return { ...made, pack: { ...made.pack, gauge: { ...suggestGauge(made), ...gauge } } };
  };
  const read = (d: ThreadDocument) => gaugeReading(d, simulate(d), d.pack.gauge!);

  it('puts its levels where the loaded pack stands with so much of its useful charge left', () => {
    const d = doc({ levels: [0.5], kind: 'converter', bits: 16 });
    const run = simulate(d);
    const [half] = read(d).levels;
    // Straight OCV: z from the end to 1, V = (E + √(E² − 4·R·P))/2 by hand.
    const z = run.socAtUseful + 0.5 * (1 - run.socAtUseful);
    const volts = (3 + z + Math.sqrt((3 + z) ** 2 - 4 * 0.1 * 4)) / 2;
    expect(half!.wanted).toBeCloseTo(volts, 2);
    expect(half!.usual).toBeCloseTo(0.5, 3);
    // At rest the same volts mean less: by R·I of about 0.11 V over 1 V for a whole charge.
    expect(half!.rest).toBeCloseTo(0.5 - ((4 / volts) * 0.1) / (1 - run.socAtUseful), 2);
    expect(half!.code).toBe(Math.round((half!.divided / 1.2) * 65536));
  });

  it('tells near what is wanted with parts of a series, and what it takes is drawn in every run', () => {
    const d = doc({});
    const told = read(d);
    for (const l of told.levels) expect(Math.abs(l.usual - l.level)).toBeLessThan(0.04);
    const { upper, lower } = d.pack.gauge!;
    // 3.5 V of the middle, 1.2 µA of the string, 4 µA of its own.
    const amps = (4 + 3.01) / 2 / (upper + lower) + 1.2e-6 + 4e-6;
    expect(told.amps.itself).toBeCloseTo(amps, 9);
    const idle = simulate(d).idle.items.find((i) => i.element === 'drain-1')!;
    expect(idle.amps).toBeCloseTo(amps, 9);
    // A divider of 10k and 20k swings 2 V; its input is to move by 20 mV: 6.67 kΩ · 99.
    expect(hysteresisOhms(20e3 / 3, 2, 0.02)).toBeCloseTo(660e3, 0);
    expect(told.lightOhms! * 1e-3).toBeCloseTo(1.5, 1);
  });

  it('is told what it and its lights take, where it tells nothing, and how far it moves; ways out help', () => {
    const find = (d: ThreadDocument, id: string) => findings(d, simulate(d)).find((f) => f.id === id);
    const lit = doc({ lit: true, light: 5e-3 });
    const lights = find(lit, 'lights-drain:cells')!;
    // Four lights, half of them lit: 10 mA, 200 h from 2 Ah.
    expect(lights).toMatchObject({ severity: 'fails' });
    expect(lights.title).toMatch(/10.*mA.*8\sdays/);
    expect(find(applyEdits(lit, lights.action!.edits), 'lights-drain:cells')).toBeUndefined();
    const hungry = doc({ upper: 30e3, lower: 10e3 });
    const drain = find(hungry, 'gauge-drain:cells')!;
    // 3.5 V over 40 kΩ and 5.2 µA: 93 µA, 68 mAh a month; the cells lose 40.
    expect(drain.title).toMatch(/93.*µA, 68\smAh a month/);
    expect(find(applyEdits(hungry, drain.action!.edits), 'gauge-drain:cells')).toBeUndefined();
    expect(find(doc({ upper: 1e5, lower: 1e5 }), 'gauge-range:cells')!.title).toMatch(
      /above 2\.40.*V; the full pack stands at 4\.00/,
    );
    expect(find(doc({}, 11), 'gauge-error:cells')).toBeDefined();
    expect(find(doc({}, 0.5), 'gauge-error:cells')).toBeUndefined();
  });
});

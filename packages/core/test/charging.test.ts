import { describe, expect, it } from 'vitest';
import { fullCellOcv, graphiteSiliconChen2020, nmcChen2020 } from '../src/cells/electrodes.ts';
import { socKnots } from '../src/cells/knots.ts';
import {
  CELL_LIBRARY,
  charge,
  CHARGE,
  chargeTogether,
  Reading,
  defaultBoost,
  defaultBuck,
  defaultLinear,
  type CellRecord,
  type ChargeControl,
  type ChargeResult,
  type Charging,
  type Stage,
  type SupplySource,
  type ThreadDocument,
} from './core.ts';
import { load, plainCell, quasiStatic, seriesOhms, thread } from './build.ts';
import { cases, caseOf, input, meets, type Case } from './cases.ts';
import { cellOf } from './schedules.ts';
import { cellTable } from '../src/plant/cellTable.ts';

const HOUR = 3600;
const WH = 3600;
const polymer = CELL_LIBRARY['polymer-850-published']!;

/** An ideal source. */
function supply(volts: number, more: Partial<SupplySource> = {}): SupplySource {
  return {
    name: 'Source',
    kind: 'supply',
    volts,
    droop: 0,
    limit: 1000,
    beyond: 'hard',
    grade: 'assumed',
    ...more,
  };
}

/** A linear charger that loses nothing but its headroom. */
function plainLinear(volts: number, more: Partial<Extract<Stage, { kind: 'linear' }>> = {}): Stage {
  return {
    ...defaultLinear('charger', 'source', volts),
    minInput: 0,
    maxInput: 1000,
    outputLimit: 1000,
    dropoutResistance: 0,
    quiescentCurrent: 0,
    thermalResistance: 0,
    ...more,
  };
}

/** A switching charger with an efficiency or losses of its own, that nothing else limits. */
function plainBoost(volts: number, loss: object): Stage {
  return {
    ...defaultBoost('charger', 'source', volts),
    minInput: 0,
    maxInput: 1000,
    inputLimit: 1000,
    maxDuty: 0.99,
    passResistance: 0,
    rectifierVolts: 0,
    loss: { quiescentCurrent: 0, ...loss } as never,
  };
}

function plainBuck(volts: number, loss: object): Stage {
  return {
    ...defaultBuck('charger', 'source', volts),
    minInput: 0,
    outputLimit: 1000,
    dropoutResistance: 0,
    maxDuty: 1,
    loss: { quiescentCurrent: 0, ...loss } as never,
  };
}

function charged(doc: ThreadDocument, charging: Partial<Charging> & Pick<Charging, 'source' | 'stage'>) {
  return charge({ ...doc, charging: { meanwhile: 'off', from: 0.05, ...charging } });
}

/** [J] of an element. */
function lost({ ledger }: ChargeResult, element: string): number {
  return ledger.entries.reduce((s, e) => s + (e.element === element ? e.joules : 0), 0);
}

/** [s] spent under a limit. */
function spent({ phases }: ChargeResult, ...limits: string[]): number {
  return phases.reduce((s, p) => s + (limits.includes(p.limit) ? p.to - p.from : 0), 0);
}

function phase({ phases }: ChargeResult, limit: string) {
  return phases.find((p) => p.limit === limit);
}

/** The published NMC cell with the resistance of a case. */
function nmc(c: Case): CellRecord {
  const soc = socKnots();
  const ocv = fullCellOcv(nmcChen2020, graphiteSiliconChen2020, {
    negative: [0.026346, 0.026346 + 0.884277],
    positive: [0.853975, 0.853975 - 0.59013],
  });
  const ohms = input(c, 'cell_resistance');
  return {
    ...plainCell(input(c, 'cell_capacity'), 2.4, 4.2, ohms),
    ocv: { soc, volts: soc.map(ocv) },
  };
}

function caseD(c: Case): ChargeResult {
  const published = (c.inputs.cell_model as unknown as string).startsWith('chen');
  const own = published ? polymer : nmc(c);
  const cell = c.id.endsWith('DYN') ? own : quasiStatic(own);
  const parasitic = input(c, 'parasitic_load', 0);
  const doc = thread({
    cell: { ...cell, selfDischargePerMonth: 0 },
    pack: {
      series: input(c, 'series_cells', 1),
      parallel: input(c, 'parallel_cells', 1),
      protection: seriesOhms(input(c, 'protection_resistance')),
    },
    loads: parasitic > 0 ? [load('current', parasitic)] : [],
  });
  const volts = input(c, 'charge_voltage');
  const switching = 'efficiency' in c.inputs;
  const stage = switching
    ? plainBoost(volts, { basis: 'efficiency', efficiency: input(c, 'efficiency') })
    : plainLinear(volts, {
        dropoutResistance: input(c, 'pass_resistance_min', 0),
        ...('theta_ja' in c.inputs
          ? { thermalResistance: input(c, 'theta_ja'), maxJunction: input(c, 'junction_limit') }
          : {}),
      });
  const control: ChargeControl = {
    current: input(c, 'charge_current_set'),
    sense: 'output',
    terminate: input(c, 'termination_current'),
    ...('precharge_below' in c.inputs
      ? { precharge: { below: input(c, 'precharge_below'), current: input(c, 'precharge_current') } }
      : {}),
  };
  const source = supply(input(c, 'source_voltage', 5), {
    droop: input(c, 'source_resistance', 0),
    limit: input(c, 'source_current_limit', 1000),
  });
  const diode =
    'series_diode_drop' in c.inputs ? { diode: { volts: input(c, 'series_diode_drop'), resistance: 0 } } : {};
  return charge(
    {
      ...doc,
      charging: {
        source,
        stage,
        control,
        ...diode,
        meanwhile: parasitic > 0 ? 'battery' : 'off',
        from: input(c, 'soc_start'),
      },
    },
    undefined,
    { air: input(c, 'ambient', 25), startSoc: input(c, 'soc_start') },
  );
}

/** What a case asks of a charge. */
function resultsD(r: ChargeResult): Record<string, unknown> {
  const rows = new Reading(r.series);
  const { ledger } = r;
  const stored = ledger.left - ledger.stored;
  const heat = lost(r, 'cells');
  const protection = lost(r, 'protection');
  const fast = r.phases.find((p) => p.limit === 'current');
  const at = (soc: number) => {
    const row = rows.rowAt(rows.timeOf(soc)!);
    const [s0, s1] = [rows.at(row, 'soc'), rows.at(row + 1, 'soc')];
    const [i0, i1] = [rows.of(row, 'outAmps'), rows.of(row + 1, 'outAmps')];
    return i0 + ((soc - s0) / (s1 - s0)) * (i1 - i0);
  };
  const peak = (from: number) =>
    rows.of(
      rows.best((k) => (rows.at(k, 'time') >= from ? rows.of(k, 'heat') : 0)),
      'heat',
    );
  const beforeCv = phase(r, 'volts')?.fromSoc;
  return {
    total_time: r.end.time / HOUR,
    time_in_cc: spent(r, 'current') / HOUR,
    time_in_cv: (spent(r, 'volts') + spent(r, 'headroom')) / HOUR,
    time_in_precharge: spent(r, 'precharge') / HOUR,
    time_limited_by_input: spent(r, 'source') / HOUR,
    time_limited_by_thermal: spent(r, 'heat') / HOUR,
    soc_at_end_of_precharge: phase(r, 'precharge')?.toSoc,
    soc_end_of_cc: fast?.toSoc ?? beforeCv,
    soc_end: r.end.soc,
    charge_in: ledger.charged! / HOUR,
    energy_at_pack_terminals: (stored + heat + protection + ledger.polarisation) / WH,
    energy_stored_ocv: stored / WH,
    heat_in_cells: heat / WH,
    heat_in_protection: protection / WH,
    heat_in_charger: lost(r, CHARGE.charger) / WH,
    heat_in_diode: lost(r, CHARGE.diode) / WH,
    energy_from_source: ledger.supplied! / WH,
    efficiency_stored_over_source: stored / ledger.supplied!,
    maximum_charge_current: r.fastest.amps,
    peak_heat_in_charger_fast_charge: peak(fast?.from ?? 0),
    peak_heat_in_charger_precharge: r.prechargeHeat,
    charge_power_limit: Math.max(
      ...Array.from({ length: rows.count }, (_, k) => rows.of(k, 'outVolts') * rows.of(k, 'outAmps')),
    ),
    current_at_soc_half: at(0.5),
    current_at_soc_0_20: at(0.2),
    current_at_soc_0_60: at(0.6),
  };
}

describe('charging against adaptive integration at tight tolerance', () => {
  for (const c of cases('D_charging').filter((c) => !c.id.includes('PARA'))) {
    it(`${c.id}: ${c.description}`, () => {
      const r = caseD(c);
      expect(r.end.reason).toBe('terminated');
      expect(r.ledger.closure).toBeLessThan(1e-6);
      meets(c, resultsD(r), [
        'total_time_difference_dynamic_minus_quasistatic',
        'soc_limit_infinite_time',
        'cell_voltage_limit',
      ]);
    });
  }

  it('D-PARA-1: a load above the current it ends at keeps it from ending', () => {
    const c = caseOf('D_charging', 'D-PARA-1');
    const r = caseD(c);
    const rows = new Reading(r.series);
    const after = rows.rowAt(12 * HOUR);
    meets(c, {
      terminates: r.end.reason === 'terminated',
      time_in_cc: spent(r, 'current') / HOUR,
      soc_end_of_cc: phase(r, 'volts')!.fromSoc,
      soc_limit: r.end.soc,
      charger_current_after_12_h: rows.of(after, 'outAmps'),
      soc_after_12_h: rows.at(after, 'soc'),
      charger_current_limit: r.end.amps,
    });
    expect([r.end.reason, r.end.keeps]).toEqual(['never', 'load']);
    expect(r.ledger.closure).toBeLessThan(1e-6);
  });

  it('D-DIODE-1: what a cell behind a diode comes to in the end, and how fast the branches are', () => {
    const c = caseOf('D_charging', 'D-DIODE-1');
    const soc = (volts: number) => {
      const doc = thread({ cell: { ...nmc(c), selfDischargePerMonth: 0 }, loads: [] });
      const control: ChargeControl = { current: 1, sense: 'output' };
      return charged(doc, {
        source: supply(5),
        stage: plainLinear(volts),
        control,
        diode: { volts: 0.7, resistance: 0 },
      });
    };
    const r = soc(4.2);
    meets(c, { soc_limit_infinite_time: r.end.soc, cell_voltage_limit: r.end.cellVolts }, [
      ...Object.keys(c.expected).filter((k) => k !== 'soc_limit_infinite_time' && k !== 'cell_voltage_limit'),
    ]);
    expect([r.end.reason, r.end.keeps]).toEqual(['never', 'noEnd']);
    const [slow, quick] = ['D-CCCV-1-DYN', 'D-CCCV-1-QS'].map((id) => caseD(caseOf('D_charging', id)));
    const dyn = caseOf('D_charging', 'D-CCCV-1-DYN');
    const name = 'total_time_difference_dynamic_minus_quasistatic';
    meets(
      dyn,
      { [name]: (slow!.end.time - quick!.end.time) / 60 },
      Object.keys(dyn.expected).filter((k) => k !== name),
    );
  });
});

/** The cell of a case of H6 as a thread's pack. */
function threadH6(c: Case, pack: object = {}): ThreadDocument {
  return thread({
    cell: cellOf(c),
    pack: {
      series: input(c, 'series_cells', 1),
      parallel: input(c, 'parallel_cells', 1),
      protection: seriesOhms(input(c, 'Rext', 0)),
      ...pack,
    },
    loads: [],
  });
}

function limitsH6(c: Case, more: Partial<ChargeControl> = {}): ChargeControl {
  return {
    current: input(c, 'charge_current', 1000),
    sense: 'output',
    terminate: input(c, 'terminate'),
    ...more,
  };
}

/** A load that repeats at the battery: [s, A]. */
function pulsed(doc: ThreadDocument, cycle: readonly [number, number][]): ThreadDocument {
  return {
    ...doc,
    loads: [load('current', 1, { draws: cycle.map(([, value], k) => ({ mode: `m${k}`, value })) })],
    modes: cycle.map((_, k) => ({ id: `m${k}`, name: `M${k}` })),
    programme: { segments: cycle.map(([seconds], k) => ({ mode: `m${k}`, seconds })), after: 'repeat' },
  };
}

describe('chargers against independent integration', () => {
  it('H6-INS-1: a boost with its sense resistor at the input gives what the input allows', () => {
    const c = caseOf('H6_charging', 'H6-INS-1');
    const doc = threadH6(c);
    const runs = [5, 4.5].map((volts) =>
      charged(doc, {
        source: supply(volts),
        stage: {
          ...plainBoost(input(c, 'cv'), { basis: 'efficiency', efficiency: input(c, 'efficiency') }),
          outputLimit: 4,
        } as Stage,
        control: limitsH6(c, { current: input(c, 'input_current_limit'), sense: 'input' }),
        from: input(c, 'soc_start'),
      }),
    );
    const amps = (r: ChargeResult, time: number) => {
      const rows = new Reading(r.series);
      return rows.of(rows.rowAt(time), 'outAmps');
    };
    const cv = (r: ChargeResult) => phase(r, 'volts')!;
    meets(c, {
      start_current: runs.map((r) => amps(r, 0)),
      current_at_cv_start: runs.map((r) => amps(r, cv(r).from - 1)),
      time_total: runs.map((r) => r.end.time / HOUR),
      time_before_cv: runs.map((r) => cv(r).from / HOUR),
      soc_end: runs.map((r) => r.end.soc),
      source_energy: runs.map((r) => r.ledger.supplied! / WH),
      heat_in_cells: runs.map((r) => lost(r, 'cells') / WH),
    });
  });

  it('H6-WALL-1: from the wall to the cells through adapter, cable and buck', () => {
    const c = caseOf('H6_charging', 'H6-WALL-1');
    const r = charged(threadH6(c), {
      source: supply(12, { wall: { standby: 0.12, perWatt: 0.1, perSquareWatt: 0.002 } }),
      // 0.2 Ω there and back as contacts: a wire of no gauge.
      contacts: { contacts: 1, contactResistance: input(c, 'cable') },
      stage: plainBuck(input(c, 'cv'), {
        basis: 'polynomial',
        fixed: 0.05,
        perOutputAmp: 0.25,
        perInputAmp: 0,
        perInputAmpSquared: 0.04,
      }),
      control: limitsH6(c),
      from: input(c, 'soc_start'),
    });
    const { ledger } = r;
    const cable = lost(r, CHARGE.cable);
    const charger = lost(r, CHARGE.charger);
    const output = ledger.supplied! - lost(r, CHARGE.source);
    meets(c, {
      time: r.end.time / HOUR,
      wall_energy: ledger.supplied! / WH,
      adapter_output: output / WH,
      cable_loss: cable / WH,
      charger_loss: charger / WH,
      into_pack: (output - cable - charger) / WH,
      heat_in_cells: lost(r, 'cells') / WH,
      stored: (ledger.left - ledger.stored) / WH,
      efficiency_wall_to_stored: (ledger.left - ledger.stored) / ledger.supplied!,
      soc_end: r.end.soc,
      time_cc: spent(r, 'current') / HOUR,
      time_cv: spent(r, 'volts') / HOUR,
    });
  });

  it('H6-BAL-1: a board bleeds the group that is ahead; it is not even when the charge ends', () => {
    const c = caseOf('H6_charging', 'H6-BAL-1');
    const given = (c.inputs.groups as unknown as { value: [number, number][] }).value;
    const cell_capacity = { value: given[0]![0], unit: 'Ah' } as unknown as Case['inputs'][string];
    const ofOne: Case = { ...c, inputs: { ...c.inputs, cell_capacity } };
    const doc = threadH6(ofOne, {
      series: given.length,
      groups: given.map(([, startSoc]) => ({ capacity: 1, resistance: 1, startSoc })),
      startSoc: given[0]![1],
      protection: {
        ...seriesOhms(0),
        overVolts: input(c, 'over_voltage'),
        balanceCurrent: input(c, 'bleed_current'),
        balanceVolts: input(c, 'bleed_above'),
      },
    });
    const r = charged(doc, {
      source: supply(20),
      stage: plainLinear(input(c, 'cv')),
      control: limitsH6(c),
      from: given[0]![1],
    });
    const groups = r.groups!;
    meets(c, {
      ends_by: r.end.reason,
      time: r.end.time / HOUR,
      soc_end: groups.soc,
      group_voltages_end: groups.volts,
      bleeding_hours: groups.bled.map((s) => s / HOUR),
      hours_to_even_out_by_bleeding: groups.toEven! / HOUR,
    });
    expect(groups.highest).toEqual([{ group: 1, from: 0 }]);
    // What the groups hold at the end, by their own curves, and what was bled: nothing is lost or won by laying them anew.
    expect(r.ledger.closure).toBeLessThan(2e-6);
    const cell = cellTable(doc.pack.cell);
    const held = groups.soc.reduce((s, soc) => s + cell.area(soc), 0) * 3600 * doc.pack.cell.capacityAh;
    expect(r.ledger.left / held).toBeCloseTo(1, 6);
    const bled = groups.bled.reduce((s, t, k) => s + t * input(c, 'bleed_current') * groups.volts[k]!, 0);
    expect(lost(r, 'protection') / bled).toBeCloseTo(1, 1);
  });

  for (const id of ['H6-TERM-1', 'H6-TERM-2']) {
    const c = caseOf('H6_charging', id);
    it(`${id}: ${c.description}`, () => {
      const cycle = (c.inputs.load_cycle as { value: unknown }).value as [number, number][];
      const r = charged(pulsed(threadH6(c), cycle), {
        source: supply(5),
        stage: plainLinear(input(c, 'cv')),
        control: limitsH6(c, { deglitch: input(c, 'deglitch'), timer: input(c, 'safety_timer') }),
        meanwhile: 'battery',
        from: input(c, 'soc_start'),
      });
      const seconds = cycle.reduce((s, [t]) => s + t, 0);
      const mean = cycle.reduce((s, [t, i]) => s + t * i, 0) / seconds;
      expect(r.end.keeps).toBe('load');
      expect(r.ledger.closure).toBeLessThan(1e-6);
      meets(c, {
        ends_by: r.end.reason,
        time: r.end.time / HOUR,
        cv_reached_at: phase(r, 'volts')!.from / HOUR,
        soc_end: r.end.soc,
        charger_charge: r.ledger.charged! / HOUR,
        mean_load: mean,
        mean_load_above_termination: mean > input(c, 'terminate'),
      });
    });
  }

  it('H6-PRE-1: a cell that was emptied too far is filled gently first', () => {
    const c = caseOf('H6_charging', 'H6-PRE-1');
    // Below empty the volts rise by 25 V per unit of charge, as the case has it.
    const r = charged(thread({ cell: cellOf(c), loads: [] }), {
      source: supply(5),
      stage: plainLinear(input(c, 'cv')),
      control: limitsH6(c, {
        precharge: { below: 3, current: input(c, 'precharge'), timer: input(c, 'precharge_timer') },
      }),
      restVolts: 2.19,
    });
    expect(r.ledger.closure).toBeLessThan(1e-6);
    const rows = new Reading(r.series);
    meets(c, {
      start_ocv: rows.at(0, 'restVolts'),
      start_terminal_voltage: rows.at(0, 'cellVolts'),
      precharge_time: spent(r, 'precharge') / HOUR,
      precharge_fault: r.end.reason === 'prechargeTimer',
      soc_at_fast_charge: phase(r, 'precharge')!.toSoc,
      total_time_without_timer: r.end.time / HOUR,
      soc_end: r.end.soc,
      charge: r.ledger.charged! / HOUR,
    });
  });
});

describe('several chargers on one source', () => {
  it('H6-FOUR-1: four linear chargers droop it, and the fullest cell waits longest', () => {
    const c = caseOf('H6_charging', 'H6-FOUR-1');
    const doc = (): ThreadDocument => ({
      ...threadH6(c, { protection: seriesOhms(input(c, 'lead_each')) }),
      charging: {
        source: supply(input(c, 'source'), { droop: input(c, 'source_resistance') }),
        stage: plainLinear(input(c, 'cv'), { dropoutResistance: input(c, 'pass_resistance') }),
        control: { current: input(c, 'current_each'), sense: 'output', terminate: input(c, 'terminate') },
        meanwhile: 'off',
        from: 0,
      },
    });
    const from = (c.inputs.soc_start as { value: unknown }).value as number[];
    const all = chargeTogether(doc(), from);
    const alone = from.map((soc) => chargeTogether(doc(), [soc]).stations[0]!.time! / HOUR);
    meets(c, {
      currents_at_start: all.stations.map((s) => s.amps),
      source_voltage_at_start: all.volts,
      time_each: all.stations.map((s) => s.time! / HOUR),
      time_each_if_alone: alone,
      source_energy: all.supplied / WH,
      heat_in_chargers: all.heat / WH,
      lowest_source_voltage: all.lowest,
    });
  });

  it('three on a source that cannot feed them all get alike of it, never more than it gives; then the rest have more', () => {
    const c = caseOf('H6_charging', 'H6-FOUR-1');
    const limit = 1.5;
    const doc: ThreadDocument = {
      ...threadH6(c),
      charging: {
        source: supply(5.1, { limit }),
        stage: plainLinear(input(c, 'cv')),
        control: { current: 0.8, sense: 'output', terminate: 0.05 },
        meanwhile: 'off',
        from: 0,
      },
    };
    const all = chargeTogether(doc, [0.1, 0.1, 0.85]);
    all.stations.forEach((s) => expect(s.amps).toBeCloseTo(limit / 3, 3));
    expect(all.most).toBeLessThanOrEqual(limit * (1 + 1e-6));
    const alone = chargeTogether(doc, [0.1]).stations[0]!.time!;
    const [one, two, fullest] = all.stations.map((s) => s.time!);
    expect(one).toBeCloseTo(two!, -2);
    expect(fullest).toBeLessThan(one!);
    // One that lets go charges nobody.
    const hiccup = { ...doc.charging!, source: supply(5.1, { limit, beyond: 'hiccup' as const }) };
    const none = chargeTogether({ ...doc, charging: hiccup }, [0.1, 0.1, 0.85]);
    expect(none.letsGo).toBe(true);
    expect(none.stations.every((s) => s.amps === 0 && s.time === undefined)).toBe(true);
    // A third at first, then a half of 1.5 A in the place of 0.8 A.
    expect(one! / alone).toBeGreaterThan(0.8 / 0.75);
    expect(one! / alone).toBeLessThan(0.8 / 0.5);
  });
});

describe('source and battery on one rail', () => {
  it('H6-PATH-1: loads first, the charger gets what they leave, the battery helps above the source', () => {
    const c = caseOf('H6_charging', 'H6-PATH-1');
    const steps = (c.inputs.loads as { value: unknown }).value as [number, number][];
    // 10 W at 12 V; the battery comes in a hair below, so that the source then still gives all of them.
    const volts = 12;
    const boost = {
      ...plainBoost(volts * (1 - 1e-4), {
        basis: 'efficiency',
        efficiency: input(c, 'discharge_efficiency'),
      }),
      id: 'rail',
      from: 'pack',
    } as Stage;
    const doc = threadH6(c);
    const base = {
      ...doc,
      stages: [boost],
      loads: [
        load('power', 1, {
          from: 'rail',
          draws: steps.map(([, value], k) => ({ mode: `m${k}`, value })),
        }),
      ],
      modes: steps.map((_, k) => ({ id: `m${k}`, name: `M${k}` })),
      programme: {
        segments: steps.map(([seconds], k) => ({ mode: `m${k}`, seconds })),
        after: 'stay' as const,
      },
    };
    const r = charged(base, {
      source: supply(volts, { limit: input(c, 'source_limit') / volts }),
      stage: plainBuck(input(c, 'cv'), { basis: 'efficiency', efficiency: input(c, 'charge_efficiency') }),
      control: { current: input(c, 'charge_current'), sense: 'output' },
      meanwhile: 'path',
      join: {
        at: 'rail',
        kind: 'managed',
        adapter: { volts: 0, resistance: 0 },
        battery: { volts: 0, resistance: 0 },
      },
      from: input(c, 'soc_start'),
    });
    expect(r.ledger.closure).toBeLessThan(1e-6);
    const rows = new Reading(r.series);
    let time = 0;
    const after = steps.map(([seconds]) => rows.at(rows.rowAt((time += seconds)), 'soc'));
    const until = rows.rowAt(time);
    let supplied = 0;
    let helped = 0;
    for (let k = 1; k <= until; k++) {
      const h = rows.at(k, 'time') - rows.at(k - 1, 'time');
      supplied += (h * (rows.of(k, 'supplied') + rows.of(k - 1, 'supplied'))) / 2;
      const help = (row: number) => Math.max(0, rows.at(row, 'packVolts') * rows.at(row, 'packAmps'));
      helped += (h * 0.94 * (help(k) + help(k - 1))) / 2;
    }
    meets(c, {
      soc_after_each_step: after,
      source_energy: supplied / WH,
      energy_supplemented: helped / WH,
      highest_charge_current: r.fastest.amps,
      battery_runs_out: r.end.reason === 'drained',
    });
  });
});

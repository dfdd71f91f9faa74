import { describe, expect, it } from 'vitest';
import { Joint, CARRIES } from '../src/plant/joint.ts';
import { knee, oredRail, shockley, thermalVolts } from '../src/stages/oring.ts';
import { handOver, rideThrough } from '../src/transients/transfer.ts';
import {
  answersOf,
  CELL_LIBRARY,
  charge,
  Reading,
  compile,
  defaultBoost,
  defaultBuck,
  LIMITS,
  outage,
  type BoostStage,
  type BuckBoostStage,
  type ThreadDocument,
} from './core.ts';
import { load, plainCell, quasiStatic, seriesOhms, thread } from './build.ts';
import { caseOf, input, meets, type Case } from './cases.ts';
import { cellOf } from './schedules.ts';

const HOUR = 3600;

describe('handing a rail over', () => {
  it('H7-RIDE-1: the dip through a transfer, and the capacitance that carries it', () => {
    const c = caseOf('H7_backup', 'H7-RIDE-1');
    const task = {
      rail: input(c, 'rail'),
      farads: input(c, 'capacitance'),
      esr: input(c, 'ESR'),
      watts: input(c, 'load'),
      seconds: input(c, 'transfer_time'),
      backup: input(c, 'backup_source') - input(c, 'backup_drop'),
      ohms: input(c, 'backup_resistance'),
    };
    const least = input(c, 'lowest_allowed');
    const dip = handOver(task);
    const bare = { ...task, esr: 0 };
    meets(c, {
      rail_first_instant: dip.first,
      rail_lowest: dip.lowest,
      stays_in_range: dip.lowest >= least,
      rail_settles_at: dip.settles,
      inrush_from_backup: dip.inrush,
      lowest_without_ESR: handOver(bare).lowest,
      least_capacitance: rideThrough(task, least),
      least_capacitance_without_ESR: rideThrough(bare, least),
    });
    expect(handOver({ ...task, farads: 1e-5 }).lowest).toBe(0);
  });
});

/** Who carries what, of an adapter behind its diode and a boost by its output resistance. */
function joined(
  adapter: [volts: number, ohms: number],
  diode: [number, number],
  boost: [number, number],
  most = Infinity,
) {
  const joint = new Joint(0, { volts: diode[0], ohms: adapter[1] + diode[1] }, { volts: 0, ohms: boost[1] });
  joint.adapterVolts = adapter[0];
  joint.most = most;
  return (amps: number) => {
    joint.solve(boost[0], () => amps);
    return joint;
  };
}

const WORD = { [CARRIES.battery]: 'boost', [CARRIES.both]: 'both', [CARRIES.adapter]: 'adapter' } as const;

describe('an adapter and a boost on one rail', () => {
  for (const id of ['F-OR-1', 'F-OR-2']) {
    const c = caseOf('F_backup', id);
    it(`${id}: ${c.description}`, () => {
      const amps = input(c, 'load_current');
      const j = joined(
        [input(c, 'adapter_voltage'), input(c, 'adapter_resistance')],
        [input(c, 'diode_drop'), input(c, 'diode_resistance')],
        [input(c, 'boost_setpoint'), input(c, 'boost_output_resistance')],
      )(amps);
      meets(c, {
        bus_voltage: j.volts,
        adapter_current: j.amps,
        boost_current: j.battery,
        carried_by: WORD[j.carries as 0],
        adapter_share: j.amps / amps,
        diode_loss: j.amps * (input(c, 'diode_drop') + input(c, 'diode_resistance') * j.amps),
        battery_side_drains_while_adapter_present: j.battery > 1e-9,
      });
    });
  }

  it('F-ORX-1: from which load on the boost shares, and what both give where the adapter ends', () => {
    const c = caseOf('F_backup', 'F-ORX-1');
    const limit = input(c, 'adapter_current_limit');
    const at = joined(
      [input(c, 'adapter_voltage'), input(c, 'adapter_resistance')],
      [input(c, 'diode_drop'), input(c, 'diode_resistance')],
      [input(c, 'boost_setpoint'), input(c, 'boost_output_resistance')],
      limit,
    );
    /** [A] least load for which something is so. */
    const from = (so: (j: Joint) => boolean) => {
      let [low, high] = [0, 20];
      for (let n = 0; n < 60; n++) {
        const middle = (low + high) / 2;
        if (so(at(middle))) high = middle;
        else low = middle;
      }
      return high;
    };
    const shares = from((j) => j.battery > 1e-9);
    const full = from((j) => j.amps >= limit - 1e-9);
    meets(c, {
      load_where_boost_starts: shares,
      bus_at_adapter_limit: at(full).volts,
      load_at_adapter_limit: full,
      boost_starts_before_adapter_limit: shares < full,
    });
  });

  it('F-ORS-1: with an exponential diode', () => {
    const c = caseOf('F_backup', 'F-ORS-1');
    const celsius = 27;
    const n = input(c, 'diode_nVt') / thermalVolts(celsius);
    const adapter = shockley(input(c, 'diode_Is'), n, input(c, 'adapter_resistance'), celsius);
    const ohms = input(c, 'boost_output_resistance');
    const boost = knee(0, ohms);
    const rail = oredRail(
      [input(c, 'adapter_voltage'), input(c, 'boost_setpoint')],
      [adapter, boost],
      input(c, 'load_current'),
    )!;
    const [a, b] = rail.amps as [number, number];
    meets(c, {
      bus_voltage: rail.volts,
      adapter_current: a,
      boost_current: b,
      diode_voltage: input(c, 'adapter_voltage') - input(c, 'adapter_resistance') * a - rail.volts,
    });
  });

  for (const id of ['H7-OR-1', 'H7-OR-0']) {
    const c = caseOf('H7_backup', id);
    it(`${id}: ${c.description}`, () => {
      const [drop, ohms] = String(c.inputs.diode)
        .match(/[\d.]+/g)!
        .map(Number) as [number, number];
      const amps = input(c, 'load');
      const set = input(c, 'boost_set_point');
      const out = input(c, 'boost_output_resistance');
      const adapter: [number, number] = [input(c, 'adapter'), input(c, 'adapter_resistance')];
      const j = { ...joined(adapter, [drop, ohms], [set, out])(amps) };
      const taken = input(c, 'battery_voltage') * input(c, 'boost_idle');
      const watts = taken + (j.battery * (set - out * j.battery)) / input(c, 'boost_efficiency');
      // The boost stays out while the adapter alone holds the rail above what it is set to.
      const alone = joined(adapter, [drop, ohms], [0, out])(amps).volts;
      const joins = (adapter[0] - drop - set) / (adapter[1] + ohms);
      meets(c, {
        rail: j.volts,
        adapter_current: j.amps,
        boost_current: j.battery,
        battery_power_on_mains: watts,
        battery_drained_with_mains_present: j.battery > 1e-9,
        hours_to_empty_on_mains: input(c, 'battery') / watts,
        boost_set_point_to_stay_out: alone,
        load_at_which_the_boost_joins: Math.max(0, joins),
      });
    });
  }
});

describe('how long it holds', () => {
  it('H7-HOLD-1: by charge left when mains goes, new and aged', () => {
    const c = caseOf('H7_backup', 'H7-HOLD-1');
    const stage: BuckBoostStage = {
      id: 'rail',
      name: 'Rail',
      from: 'pack',
      kind: 'buckBoost',
      outputVolts: 12,
      minInput: input(c, 'converter_stops_below'),
      hysteresis: 1,
      maxInput: 100,
      loss: {
        basis: 'polynomial',
        fixed: 0.08,
        perOutputAmp: 0.25,
        perInputAmp: 0,
        perInputAmpSquared: 0.03,
        quiescentCurrent: 0,
      },
      maxBuckDuty: 0.999,
      minBoostDuty: 0.001,
      maxBoostDuty: 0.98,
      bothLoss: 0,
      inputLimit: 1000,
      pathResistance: 0,
      grade: 'assumed',
    };
    const doc = thread({
      cell: cellOf(c),
      pack: { series: 2, parallel: 2, protection: seriesOhms(input(c, 'Rext')) },
      stages: [stage],
      loads: [load('power', input(c, 'load'), { from: 'rail', range: { min: 11, max: 13 } })],
    });
    const socs = (c.inputs.soc_list as { value: unknown }).value as number[];
    const ages = (c.inputs.ages as { value: unknown }).value as [number, number][];
    const hold = ages.map(([capacity, resistance]) =>
      socs.map(
        (startSoc) => answersOf(compile(doc, { startSoc, capacity, resistance })).usefulEnd.time / HOUR,
      ),
    );
    hold.forEach((row, k) =>
      meets(
        {
          ...c,
          expected: {
            hold_time: {
              ...c.expected.hold_time!,
              value: (c.expected.hold_time!.value as unknown as number[][])[k]!,
            },
          },
        },
        {
          hold_time: row,
        },
      ),
    );
  });
});

/** A battery of so many watt-hours that gives what it holds, an adapter of so many watts, day and night. */
function timeline(c: Case, capacityWh: number) {
  const volts = 3.7;
  const own = input(c, 'own_draw', 0);
  const cell = { ...plainCell(capacityWh / volts, volts - 0.1, volts + 0.1, 1e-6), endVolts: volts - 0.09 };
  const U = 12;
  const boost = (id: string, from: string, set: number, efficiency: number): BoostStage => ({
    ...defaultBoost(id, from, set),
    minInput: 0,
    maxInput: 1000,
    inputLimit: 1000,
    maxDuty: 0.99,
    passResistance: 0,
    rectifierVolts: 0,
    loss: { basis: 'efficiency', efficiency, quiescentCurrent: 0 },
  });
  const rail = boost('rail', 'pack', U * (1 - 2e-4), input(c, 'discharge_efficiency'));
  const charger = boost('charger', 'source', cell.fullVolts, input(c, 'charge_efficiency'));
  const [from, to] = [input(c, 'day_from'), input(c, 'day_to')];
  const doc: ThreadDocument = {
    ...thread({
      cell,
      pack: {
        protection: {
          ...seriesOhms(0),
          quiescentCurrent: own / volts,
        },
      },
      stages: [rail],
      loads: [
        load('power', 1, {
          from: 'rail',
          range: { min: 11, max: 13 },
          draws: [
            { mode: 'day', value: input(c, 'load_day') },
            { mode: 'night', value: input(c, 'load_night') },
          ],
        }),
      ],
    }),
    modes: [
      { id: 'day', name: 'Day' },
      { id: 'night', name: 'Night' },
    ],
    programme: {
      segments: [
        { mode: 'night', seconds: from * HOUR },
        { mode: 'day', seconds: (to - from) * HOUR },
        { mode: 'night', seconds: (24 - to) * HOUR },
      ],
      after: 'repeat',
    },
    charging: {
      source: {
        name: 'Adapter',
        kind: 'supply',
        volts: U,
        droop: 0,
        limit: input(c, 'adapter_power') / U,
        beyond: 'hard',
        grade: 'assumed',
      },
      // It steps down: a buck without losses of its own kind.
      stage: {
        ...defaultBuck('charger', 'source', cell.fullVolts),
        minInput: 0,
        maxInput: 1000,
        outputLimit: 1000,
        maxDuty: 1,
        dropoutResistance: 0,
        loss: charger.loss,
      },
      control: { current: 1000, sense: 'output', inputLimit: input(c, 'charge_power_max') / U },
      meanwhile: 'path',
      join: {
        at: 'rail',
        kind: 'managed',
        adapter: { volts: 0, resistance: 0 },
        battery: { volts: 0, resistance: 0 },
      },
      from: 1,
    },
  };
  const gone = ((c.inputs.outages as { value: unknown }).value as [number, number][]).map(([a, b]) => ({
    from: a * HOUR,
    to: b * HOUR,
  }));
  const horizon = input(c, 'horizon') * HOUR;
  const r = outage(doc, gone, horizon);
  const rows = new Reading(r.series);
  /** Share of its energy it holds. */
  const held = (soc: number) => (soc * (volts - 0.1) + 0.1 * soc * soc) / volts;
  const shareAt = (time: number) => {
    const row = rows.rowAt(time);
    const next = Math.min(row + 1, rows.count - 1);
    const [t0, t1] = [rows.at(row, 'time'), rows.at(next, 'time')];
    const x = t1 > t0 ? (time - t0) / (t1 - t0) : 0;
    return held(rows.at(row, 'soc') + x * (rows.at(next, 'soc') - rows.at(row, 'soc')));
  };
  return { doc, gone, horizon, r, rows, shareAt, held };
}

describe('timelines of mains', () => {
  it('F-TL-1: two days, the second outage runs the battery flat', () => {
    const c = caseOf('F_backup', 'F-TL-1');
    const { r, rows, shareAt, held } = timeline(c, input(c, 'capacity'));
    expect(r.ledger.closure).toBeLessThan(1e-6);
    const points = (c.expected.soc_at_breakpoints!.value as unknown as [number, number][]).map(([t]) => [
      t,
      shareAt(t * HOUR),
    ]);
    points.forEach(([t, soc], k) => {
      const [, wanted] = (c.expected.soc_at_breakpoints!.value as unknown as [number, number][])[k]!;
      expect(Math.abs(soc! - wanted), `at ${t} h`).toBeLessThan(2e-4);
    });
    /** [h] first time from which on it is full again. */
    const fullAfter = (from: number) => {
      for (let k = 0; k < rows.count; k++) {
        if (rows.at(k, 'time') > from * HOUR && held(rows.at(k, 'soc')) > 0.9999)
          return rows.at(k, 'time') / HOUR;
      }
      return NaN;
    };
    const full = [fullAfter(13), fullAfter(32)];
    full.forEach((t, k) =>
      expect(Math.abs(t - (c.expected.full_again_at!.value as unknown as number[])[k]!)).toBeLessThan(0.02),
    );
    meets(
      c,
      {
        min_soc: held(r.lowest.soc),
        min_soc_at: r.dark[0]!.from / HOUR,
        hours_dark: r.dark.reduce((s, d) => s + d.to - d.from, 0) / HOUR,
        dark_begins_at: r.dark.map((d) => d.from / HOUR),
        unserved: r.unserved / HOUR,
        adapter_energy: r.ledger.supplied! / HOUR,
        soc_end: shareAt(48 * HOUR),
        hours_battery_supplements:
          r.who.filter((w) => w.what === 'both').reduce((s, w) => s + w.to - w.from, 0) / HOUR,
      },
      ['soc_at_breakpoints', 'full_again_at'],
    );
  });

  for (const id of ['H7-TL-1', 'H7-TL-2']) {
    const c = caseOf('H7_backup', id);
    it(`${id}: ${c.description}`, () => {
      const { r, shareAt, held, horizon, rows } = timeline(c, input(c, 'capacity'));
      expect(r.ledger.closure).toBeLessThan(1e-6);
      const delivered = r.ledger.entries
        .filter((e) => e.mechanism === 'delivered')
        .reduce((s, e) => s + e.joules, 0);
      let fullOnMains = 0;
      for (let k = 1; k < rows.count; k++) {
        const full = (row: number) => held(rows.at(row, 'soc')) > 0.999 && rows.of(row, 'sourceAmps') > 0;
        if (full(k) && full(k - 1)) fullOnMains += rows.at(k, 'time') - rows.at(k - 1, 'time');
      }
      const most = Math.max(
        ...Array.from({ length: rows.count }, (_, k) => rows.of(k, 'sourceVolts') * rows.of(k, 'sourceAmps')),
      );
      meets(
        c,
        {
          soc_end: shareAt(horizon),
          lowest_soc: held(r.lowest.soc),
          lowest_at: r.lowest.time / HOUR,
          hours_dark: r.dark.reduce((s, d) => s + d.to - d.from, 0) / HOUR,
          unserved: r.unserved / HOUR,
          served: delivered / HOUR,
          adapter_energy: r.ledger.supplied! / HOUR,
          adapter_peak_power: most,
          hours_full_on_mains: fullOnMains / HOUR,
        },
        ['dark_intervals', 'smallest_battery_without_dark', ...(r.dark.length === 0 ? [] : [])],
      );
      (c.expected.dark_intervals!.value as unknown as [number, number][]).forEach(([a, b], k) => {
        expect(Math.abs(r.dark[k]!.from / HOUR - a)).toBeLessThan(0.02);
        expect(Math.abs(r.dark[k]!.to / HOUR - b)).toBeLessThan(0.02);
      });
      // A battery as large as the case says is just enough; one a per cent smaller is not.
      const least = c.expected.smallest_battery_without_dark!.value as number;
      expect(timeline(c, 1.004 * least).r.dark).toEqual([]);
      expect(timeline(c, 0.99 * least).r.dark.length).toBeGreaterThan(0);
    });
  }

  it('F-REAL-1: on the battery bus, how long it holds and how long it takes to refill with the load on', () => {
    const c = caseOf('F_backup', 'F-REAL-1');
    const polymer = { ...quasiStatic(CELL_LIBRARY['polymer-850-published']!), selfDischargePerMonth: 0 };
    const plain = (id: string, from: string, volts: number, efficiency: number): BoostStage => ({
      ...defaultBoost(id, from, volts),
      minInput: 0,
      maxInput: 100,
      inputLimit: 1000,
      maxDuty: 0.99,
      passResistance: 0,
      rectifierVolts: 0,
      loss: { basis: 'efficiency', efficiency, quiescentCurrent: 0 },
    });
    const rail = {
      ...plain('rail', 'pack', 12, input(c, 'boost_efficiency')),
      minInput: input(c, 'cutoff'),
      hysteresis: 0.5,
    };
    const doc: ThreadDocument = thread({
      cell: polymer,
      pack: { parallel: 3, protection: seriesOhms(input(c, 'protection_resistance')) },
      stages: [rail],
      loads: [load('power', input(c, 'load_power'), { from: 'rail', range: { min: 11, max: 13 } })],
    });
    const run = answersOf(compile(doc));
    const stage = {
      ...defaultBuck('charger', 'source', input(c, 'charge_voltage')),
      minInput: 0,
      outputLimit: 1000,
      maxDuty: 1,
      dropoutResistance: 0,
      loss: plain('x', 'y', 1, input(c, 'charger_efficiency')).loss,
    };
    const r = charge(
      {
        ...doc,
        charging: {
          source: {
            name: 'Adapter',
            kind: 'supply',
            volts: input(c, 'adapter_voltage'),
            droop: 0,
            limit: input(c, 'adapter_current'),
            beyond: 'hard',
            grade: 'assumed',
          },
          stage,
          control: {
            current: input(c, 'charge_current_max'),
            sense: 'output',
            terminate: input(c, 'termination_battery_current'),
            endsBy: 'battery',
          },
          meanwhile: 'battery',
          from: run.socAtUseful,
        },
      },
      undefined,
      { startSoc: run.socAtUseful },
    );
    const rows = new Reading(r.series);
    const at = rows.rowAt(rows.timeOf(0.5)!);
    meets(c, {
      runtime: run.usefulEnd.time / HOUR,
      soc_at_cutoff: run.socAtUseful,
      energy_to_load: run.ledger.usable / HOUR,
      recharge_time_to_termination: r.end.time / HOUR,
      recharge_time_to_90: rows.timeOf(0.9)! / HOUR,
      soc_end: r.end.soc,
      battery_current_at_soc_half: -rows.at(at, 'packAmps'),
      limit_at_soc_half: LIMITS[rows.of(at, 'limit')],
      charger_current_at_end: r.end.amps,
    });
  });

  it('mains always there is as if there was no outage; one that never goes changes nothing', () => {
    const c = caseOf('F_backup', 'F-TL-1');
    const { doc, horizon } = timeline(c, 37);
    const always = outage(doc, [], horizon);
    expect(always.dark).toEqual([]);
    expect(always.who.map((w) => w.what)).toEqual(['adapter']);
    expect(always.lowest.soc).toBeGreaterThan(0.999);
    const short = outage(doc, [{ from: HOUR, to: HOUR + 1e-3 }], horizon);
    expect(short.ledger.supplied! / always.ledger.supplied!).toBeCloseTo(1, 5);
  });
});

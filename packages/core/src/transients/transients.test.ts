import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { caseOf, input, meets } from '../../test/cases.ts';
import { Guard, GUARDED, GUARDS, type Guarded } from '../run/keepers/guard.ts';
import type { PackWatch } from '../run/march/watch.ts';
import { chatter } from './chatter.ts';
import { dip } from './dip.ts';
import { inrush, ramp, slewAt } from './inrush.ts';

const of = (id: string) => caseOf('H5_protection', id);

const passed = (...all: Guarded[]) => ({ has: (watch: PackWatch) => all.some((g) => GUARDS[g] === watch) });

/** Runs a board's timers over a profile of currents, as a driver does: at every edge, and when one is due. */
function trips(profile: number[][], stages: number[][], amps: (value: number) => number) {
  const events = ['trip', 'short'] as const;
  // The two stages nearest to a current: a board has two.
  const guard = new Guard({ delays: { cutoff: 0, trip: stages[0]![1]!, short: stages[1]![1]! } });
  for (const [from, to, value] of profile) {
    const now = passed(...events.filter((_, k) => amps(value!) > stages[k]![0]!));
    for (let time = from!; ;) {
      const opens = guard.look(now, time);
      if (opens) return { trips: true, time_to_trip: time, stage: opens === 'trip' ? 0 : 1 };
      if (!(guard.due() < to!)) break;
      time = guard.due();
    }
  }
  return { trips: false };
}

describe('protection with time', () => {
  it('a pulse that is over in time passes, its timer back at nothing; a longer one trips', () => {
    const c = of('H5-TRIP-1');
    const { profile, stages } = c.inputs as Record<string, { value: number[][] }>;
    meets(
      c,
      trips(profile!.value, stages!.value, (a) => a),
    );
  });

  it('constant power draws the more the further the pack sags', () => {
    const c = of('H5-TRIP-2');
    const { profile, stages } = c.inputs as Record<string, { value: number[][] }>;
    const [e, r] = [input(c, 'ocv'), input(c, 'resistance')];
    const sagged = (w: number) => (e - Math.sqrt(e * e - 4 * r * w)) / (2 * r);
    const watts = profile!.value.map((p) => p[2]!);
    meets(c, {
      ...trips(profile!.value, stages!.value, sagged),
      currents: watts.map(sagged),
      currents_without_sag: watts.map((w) => w / e),
    });
  });

  it('timers are apart from one another', () => {
    const guard = new Guard({ delays: { cutoff: 2, trip: 1, short: 0.5 } });
    expect(guard.look(passed('cutoff'), 0)).toBeUndefined();
    expect(guard.look(passed('cutoff', 'trip'), 1.5)).toBeUndefined();
    expect(guard.due()).toBe(2);
    expect(guard.look(passed('trip'), 1.9)).toBeUndefined();
    expect(guard.due()).toBe(2.5);
    expect(guard.look(passed('trip'), 2.5)).toBe('trip');
    expect(GUARDED).toHaveLength(3);
  });
});

describe('inrush', () => {
  it.each(['H5-INR-1', 'H5-INR-2'])('%s', (id) => {
    const c = of(id);
    const [v, r, l] = [input(c, 'voltage'), input(c, 'resistance'), input(c, 'inductance')];
    const found = inrush(v - input(c, 'capacitor_start'), r, input(c, 'capacitance'), l);
    const melts = c.inputs.fuse_melting_i2t
      ? { fuse_survives_one: found.i2t < input(c, 'fuse_melting_i2t') }
      : {};
    meets(c, {
      peak_current: found.peak,
      time_of_peak: found.peakTime,
      i2t: found.i2t,
      energy_lost_in_R: found.heat,
      peak_capacitor_voltage: found.highest,
      ...melts,
    });
  });

  it('damped little or much, the current adds up to the charge and its square to the heat', () => {
    // Small steps of the circuit itself; R from far below to far above critical.
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 10, noNaN: true }), (q) => {
        const [v, l, c] = [12, 1e-6, 1e-4];
        const ohms = 2 * q * Math.sqrt(l / c);
        let [i, u, peak, at, i2t, highest] = [0, 0, 0, 0, 0, 0];
        const h = Math.min(l / ohms, Math.sqrt(l * c)) / 2000;
        for (let t = 0; t < 12 * Math.max(ohms * c, (2 * l) / ohms); t += h) {
          i += (h * (v - u - ohms * i)) / l;
          u += (h * i) / c;
          i2t += h * i * i;
          highest = Math.max(highest, u);
          if (i > peak) [peak, at] = [i, t];
        }
        const found = inrush(v, ohms, c, l);
        expect(found.peak / peak).toBeCloseTo(1, 2);
        expect(found.peakTime / at).toBeCloseTo(1, 1);
        expect(found.i2t / i2t).toBeCloseTo(1, 2);
        expect(found.highest / highest).toBeCloseTo(1, 2);
      }),
      { numRuns: 6, seed: 5 },
    );
  });

  it('a switch that lets the volts rise evenly', () => {
    const c = of('H5-SLEW-1');
    const [v, slew, f, i] = [
      input(c, 'voltage'),
      input(c, 'slew'),
      input(c, 'capacitance'),
      input(c, 'load_current'),
    ];
    const found = ramp(v, slew, f, i);
    meets(c, {
      peak_current: found.amps,
      ramp_time: found.seconds,
      i2t_of_the_ramp: found.i2t,
      energy_in_the_switch: found.heat,
      trips: found.amps > input(c, 'trip'),
      slew_at_the_trip_limit: slewAt(input(c, 'trip'), f, i),
    });
  });
});

it.each(['H5-UVLO-1', 'H5-UVLO-2'])('a lock-out behind a weak source: %s', (id) => {
  const c = of(id);
  const found = chatter({
    open: input(c, 'ocv'),
    ohms: input(c, 'resistance'),
    watts: input(c, 'input_power_when_on'),
    on: input(c, 'turns_on_above'),
    off: input(c, 'turns_off_below'),
    farads: input(c, 'input_capacitance'),
  });
  meets(
    c,
    {
      starts: found.starts,
      oscillates: found.oscillates,
      stable_loaded_voltage: found.loaded,
      largest_power_without_chatter: found.mostWatts,
      voltage_high: input(c, 'turns_on_above'),
      voltage_low: input(c, 'turns_off_below'),
      off_time: found.offSeconds,
      on_time: found.onSeconds,
      frequency: found.hertz,
      mean_power_delivered: found.meanWatts,
    },
    ['hysteresis_needed_at_this_voltage'],
  );
});

it('a burst on a rail that others share', () => {
  const c = of('H5-DIP-1');
  const rail = {
    volts: input(c, 'source'),
    ohms: input(c, 'source_resistance'),
    farads: input(c, 'rail_capacitance'),
    esr: input(c, 'ESR'),
  };
  const limit = input(c, 'brown_out_below');
  const found = dip(rail, input(c, 'base_current'), input(c, 'step'), input(c, 'step_duration'), limit);
  meets(c, {
    rail_before: found.before,
    rail_first_instant: found.first,
    rail_lowest: found.lowest,
    brown_out: found.lowest < limit,
    time_below: found.below,
    least_capacitance: found.needed,
  });
});

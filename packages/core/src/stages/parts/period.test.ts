import { describe, expect, it } from 'vitest';
import { WIRE, type Bridge, type Way } from './bridge.ts';
import { Period, solvePeriod, type Switching } from './period.ts';

const ohmic = (ohms: number): Way => ({ ...WIRE, ohms });
const diode = (volts: number, ohms: number): Way => ({ ...WIRE, volts, ohms, diode: true });

const bridge: Bridge = {
  shape: 'boost',
  inductance: 200e-6,
  winding: 0.06,
  a: WIRE,
  b: WIRE,
  c: ohmic(0.08),
  d: diode(0.4, 0.05),
  frequency: 200e3,
  light: 'forced',
  pulsePeak: 0,
  minOn: 0,
  peakLimit: 50,
  leastBoost: 0.1,
  mostBuck: 0.95,
  mostBoost: 0.95,
  deadTime: 0,
  drive: 5,
  quiescent: 0,
  input: { farads: 100e-6, ohms: 0 },
  // As much resistance as a tired electrolytic has: a volt or so while the rectifier conducts.
  output: { farads: 200e-6, ohms: 0.25 },
  core: 0,
};

/** Currents and volts, and their slopes with the switch on and off. */
interface Circuit {
  state: number[];
  on(x: readonly number[]): number[];
  off(x: readonly number[]): number[];
}

/** Mean of each over the last tenth of so many periods at a duty: small steps by Heun, no averaging and no balance. */
function stepped({ state, on, off }: Circuit, duty: number, hertz: number, periods: number): number[] {
  const STEPS = 12;
  let x = state;
  const sum = x.map(() => 0);
  let counted = 0;
  for (let n = 0; n < periods; n++) {
    for (const [slopes, share] of [
      [on, duty],
      [off, 1 - duty],
    ] as const) {
      const h = share / hertz / STEPS;
      for (let k = 0; k < STEPS; k++) {
        const first = slopes(x);
        const second = slopes(x.map((v, i) => v + h * first[i]!));
        const next = x.map((v, i) => v + (h / 2) * (first[i]! + second[i]!));
        if (n >= 0.9 * periods) {
          for (let i = 0; i < sum.length; i++) sum[i]! += (h * (x[i]! + next[i]!)) / 2;
          counted += h;
        }
        x = next;
      }
    }
  }
  return sum.map((s) => s / counted);
}

function dutyOf(of: Bridge, switching: Switching, vin: number, vout: number, iout: number): number {
  const period = new Period();
  expect(solvePeriod(of, switching, vin, vout, iout, period)).toBe(true);
  expect(period.discontinuous).toBe(false);
  return period.duty;
}

describe('a period against its circuit stepped in time, with an output capacitor that has resistance', () => {
  const { inductance: L, winding, c, d, output, frequency } = bridge;
  const { farads: C, ohms: esr } = output;

  it.each([
    [6, 12, 1.2],
    [9, 12, 2],
    [5, 20, 0.5],
  ])('boost, %d V to %d V at %d A', (vin, vout, iout) => {
    const duty = dutyOf(bridge, 'boost', vin, vout, iout);
    const [, volts] = stepped(
      {
        state: [iout / (1 - duty), vout],
        on: ([i]) => [(vin - (winding + c.ohms) * i!) / L, -iout / C],
        off: ([i, v]) => [
          (vin - (winding + d.ohms) * i! - d.volts - v! - esr * (i! - iout)) / L,
          (i! - iout) / C,
        ],
      },
      duty,
      frequency,
      6000,
    );
    expect(volts! / vout).toBeCloseTo(1, 3);
  });

  it.each([
    [8, 5, 1],
    [5, 9, 0.6],
  ])('SEPIC, %d V to %d V at %d A', (vin, vout, iout) => {
    const first = { henries: 200e-6, ohms: 0.2 };
    const second = { henries: 300e-6, ohms: 0.15 };
    const Cs = 100e-6;
    const sepic: Bridge = {
      ...bridge,
      shape: 'sepic',
      inductance: (first.henries * second.henries) / (first.henries + second.henries),
      winding: 0,
      windings: { first, second },
      coupling: { farads: Cs, ohms: 0 },
    };
    const duty = dutyOf(sepic, 'sepic', vin, vout, iout);
    const rail = (sum: number, v: number) => d.volts + d.ohms * sum + v + esr * (sum - iout);
    const i1 = (iout * duty) / (1 - duty);
    const [, , , volts] = stepped(
      {
        state: [i1, iout, vin, vout],
        on: ([a, b, s]) => [
          (vin - first.ohms * a! - c.ohms * (a! + b!)) / first.henries,
          (s! - second.ohms * b! - c.ohms * (a! + b!)) / second.henries,
          -b! / Cs,
          -iout / C,
        ],
        off: ([a, b, s, v]) => [
          (vin - first.ohms * a! - s! - rail(a! + b!, v!)) / first.henries,
          (-second.ohms * b! - rail(a! + b!, v!)) / second.henries,
          a! / Cs,
          (a! + b! - iout) / C,
        ],
      },
      duty,
      frequency,
      6000,
    );
    expect(volts! / vout).toBeCloseTo(1, 3);
  });
});

import { chooseContract } from '../charging/contracts.ts';
import { varianceShares } from '../charging/volts.ts';
import { class1Resistance, class5Resistance } from '../conductors/iec60228.ts';
import { onderdonk, preece } from '../conductors/fuse.ts';
import { boundaryAmps, criticalK, discontinuousRatio, idealDuty, type Shape } from '../design/boundary.ts';
import { toroidInductance, toroidTurns } from '../design/filter.ts';
import { programmedAmps, programmingResistor } from '../design/programming.ts';
import { oredRail, shockley } from '../stages/oring.ts';
import { inrush, ramp, slewAt } from '../transients/inrush.ts';
import { dutyFromEfficiency, edgeBoost } from './choose.ts';

/** A figure a formula is given or comes to. */
export interface FormulaFigure {
  key: string;
  about: string;
  /** '' for a plain number */
  unit: string;
}

/** What a formula is given: `usual` where it need not be said. */
export interface FormulaInput extends FormulaFigure {
  usual?: number;
  /** largest and smallest that make sense; above 0 where nothing is said */
  least?: number;
  most?: number;
}

/** A closed form by itself, for what no thread is drawn for. */
export interface Formula {
  name: string;
  about: string;
  source: string;
  inputs: readonly FormulaInput[];
  outputs: readonly FormulaFigure[];
  /** @param given every input by its key, in SI @returns every output by its key; NaN where there is none */
  of(given: Readonly<Record<string, number>>): Record<string, number>;
}

const figure = (key: string, unit: string, about: string): FormulaFigure => ({ key, unit, about });
const input = (key: string, unit: string, about: string, more: Partial<FormulaInput> = {}): FormulaInput => ({
  ...figure(key, unit, about),
  ...more,
});

/** [V] that sources with contracts commonly offer. Common practice, no source. */
const CONTRACTS = [5, 9, 12, 15, 20] as const;

const CONVERTER = [
  input('vin', 'V', 'input volts'),
  input('vout', 'V', 'output volts'),
  input('rectifier', 'V', 'drop of the rectifier', { usual: 0, least: 0 }),
  input('inductance', 'H', 'inductance'),
  input('frequency', 'Hz', 'switching frequency'),
  input('amps', 'A', 'output current'),
];

/** Where a converter leaves continuous conduction, and what its duty does below. */
function boundary(name: string, shape: Shape, about: string): Formula {
  return {
    name,
    about,
    source: 'Erickson and Maksimović, Fundamentals of Power Electronics, ch. 5 (from memory)',
    inputs: CONVERTER,
    outputs: [
      figure('edge', 'A', 'current below which conduction is discontinuous'),
      figure('duty', '', 'duty while it is continuous, lossless'),
      figure('k', '', 'K = 2·L·f/R at this load'),
      figure('critical', '', 'K below which conduction is discontinuous'),
      figure('ratio', '', 'volts out over volts in, were it discontinuous at this duty'),
    ],
    of: ({ vin, vout, rectifier, inductance, frequency, amps }) => {
      const ideal = {
        vin: vin!,
        vout: vout!,
        rectifier: rectifier!,
        inductance: inductance!,
        frequency: frequency!,
      };
      const duty = idealDuty(shape, vin!, vout!, rectifier);
      const k = (2 * inductance! * frequency! * amps!) / vout!;
      const edge = boundaryAmps(shape, ideal);
      return { edge, duty, k, critical: criticalK(shape, duty), ratio: discontinuousRatio(shape, duty, k) };
    },
  };
}

/** Every formula there is. */
export const FORMULAS: readonly Formula[] = [
  {
    name: 'melts',
    about: 'what melts a copper wire within a time, and what melts it for good',
    source: 'Onderdonk, below ten seconds; Preece (both from memory)',
    inputs: [
      input('area', 'mm²', 'cross-section of the copper'),
      input('seconds', 's', 'time'),
      input('air', '°C', 'temperature it begins at', { usual: 25, least: -60, most: 1000 }),
    ],
    outputs: [
      figure('amps', 'A', 'melts it within the time'),
      figure('lasting', 'A', 'melts it in free air, however long'),
    ],
    of: ({ area, seconds, air }) => ({
      amps: onderdonk(area!, seconds!, air!),
      lasting: preece(Math.sqrt((4 * area!) / Math.PI) / 1000),
    }),
  },
  {
    name: 'wire',
    about: 'largest resistance a copper wire of a section is made with, at 20 °C',
    source: 'IEC 60228, classes 1 and 5 (from memory); beyond the table of class 5 by resistivity',
    inputs: [input('area', 'mm²', 'section'), input('metres', 'm', 'length, there and back', { usual: 1 })],
    outputs: [figure('solid', 'Ω', 'solid'), figure('flexible', 'Ω', 'flexible')],
    of: ({ area, metres }) => ({
      solid: metres! * class1Resistance(area!),
      flexible: metres! * class5Resistance(area!),
    }),
  },
  {
    name: 'divider',
    about: 'how far volts set by a divider spread, and whose part that is',
    source: 'first-order propagation of uncertainty, every tolerance even; textbook',
    inputs: [
      input('reference', 'V', 'reference'),
      input('referenceTolerance', '', 'its tolerance, a share', { usual: 0.01, least: 0, most: 1 }),
      input('top', 'Ω', 'resistor to the output'),
      input('bottom', 'Ω', 'resistor to the return'),
      input('resistorTolerance', '', 'their tolerance, a share', { usual: 0.01, least: 0, most: 1 }),
    ],
    outputs: [
      figure('volts', 'V', 'set on the mean'),
      figure('deviation', 'V', 'standard deviation'),
      figure('ofReference', '', 'share of the variance that is the reference’s'),
      figure('ofTop', '', 'that of the upper resistor'),
      figure('ofBottom', '', 'that of the lower one'),
    ],
    of(given) {
      const divider = given as unknown as Parameters<typeof varianceShares>[0];
      const { deviation, shares } = varianceShares(divider);
      const volts = divider.reference * (1 + divider.top / divider.bottom);
      return { volts, deviation, ofReference: shares[0], ofTop: shares[1], ofBottom: shares[2] };
    },
  },
  {
    name: 'contract',
    about: 'which contract to ask a source for, where a step-down charger is behind a cable',
    source: 'Kirchhoff and power balance',
    inputs: [
      ...CONTRACTS.map((volts) =>
        input(`at${volts}`, 'A', `current it offers at ${volts} V`, { usual: 0, least: 0 }),
      ),
      input('pack', 'V', 'volts of the pack now'),
      input('full', 'V', 'volts of the pack when full'),
      input('amps', 'A', 'charge current that is wanted'),
      input('headroom', 'V', 'what the charger needs above the pack', { usual: 0.5, least: 0 }),
      input('wire', 'Ω', 'cable, there and back', { usual: 0, least: 0 }),
      input('efficiency', '', 'efficiency of the charger, 0 to 1', { usual: 0.9, most: 1 }),
      input('share', '', 'part of what is offered that is used at most', { usual: 1, most: 1 }),
    ],
    outputs: [
      figure('volts', 'V', 'ask for it'),
      figure('sourceAmps', 'A', 'what is then taken of it'),
      figure('inputVolts', 'V', 'at the charger'),
      figure('chargeAmps', 'A', 'into the pack'),
    ],
    of(given) {
      const { pack, full, amps, headroom, wire, efficiency, share } = given;
      const best = chooseContract({
        offers: CONTRACTS.flatMap((volts) => {
          const offered = given[`at${volts}`]!;
          return offered > 0 ? [{ volts, amps: offered }] : [];
        }),
        ...{ wire: wire!, full: full!, headroom: headroom!, wanted: amps! },
        ...{ volts: pack!, efficiency: efficiency!, share: share! },
      });
      const { volts = NaN, sourceAmps = NaN, inputVolts = NaN, chargeAmps = NaN } = best ?? {};
      return { volts, sourceAmps, inputVolts, chargeAmps };
    },
  },
  boundary('buck-edge', 'buck', 'where a buck leaves continuous conduction'),
  boundary('boost-edge', 'boost', 'where a boost leaves continuous conduction'),
  boundary('sepic-edge', 'sepic', 'where a SEPIC leaves continuous conduction'),
  {
    name: 'edge-boost',
    about: 'a one-chip boost that always works at the edge of continuous conduction',
    source: 'design equations of one-chip switching regulators (from memory)',
    inputs: [
      input('vin', 'V', 'input volts'),
      input('vout', 'V', 'output volts'),
      input('iout', 'A', 'output current'),
      input('frequency', 'Hz', 'switching frequency'),
      input('switchVolts', 'V', 'drop of the switch', { usual: 1, least: 0 }),
      input('diodeVolts', 'V', 'drop of the diode', { usual: 0.5, least: 0 }),
      input('ripple', 'V', 'ripple allowed at the output', { usual: 0.1 }),
    ],
    outputs: [
      figure('ratio', '', 'on time over off time'),
      figure('onTime', 's', 'on time'),
      figure('peak', 'A', 'peak of the inductor'),
      figure('inductance', 'H', 'inductance'),
      figure('sense', 'Ω', 'sense resistor of a 0.3 V limit'),
      figure('output', 'F', 'output capacitance'),
      figure('timing', 'F', 'timing capacitor'),
    ],
    of: (g) => edgeBoost(g as unknown as Parameters<typeof edgeBoost>[0]),
  },
  {
    name: 'duty',
    about: 'duty of a buck and of a boost with a measured efficiency in it',
    source: 'basic calculations of converters (from memory)',
    inputs: [
      input('vin', 'V', 'input volts'),
      input('vout', 'V', 'output volts'),
      input('efficiency', '', 'efficiency, 0 to 1', { most: 1 }),
    ],
    outputs: [figure('buck', '', 'duty of a buck'), figure('boost', '', 'duty of a boost')],
    of: ({ vin, vout, efficiency }) => ({
      buck: vout! < vin! ? dutyFromEfficiency('buck', vin!, vout!, efficiency!) : NaN,
      boost: vout! > vin! ? dutyFromEfficiency('boost', vin!, vout!, efficiency!) : NaN,
    }),
  },
  {
    name: 'toroid',
    about: 'turns of a toroid for at least an inductance',
    source: 'elementary: L = A_L·N²',
    inputs: [input('al', 'H', 'A_L, per turn squared'), input('inductance', 'H', 'inductance wanted')],
    outputs: [figure('turns', '', 'turns'), figure('had', 'H', 'inductance they have')],
    of: ({ al, inductance }) => {
      const turns = toroidTurns(al!, inductance!);
      return { turns, had: toroidInductance(al!, turns) };
    },
  },
  {
    name: 'programmed',
    about: 'resistor that sets a charger’s current, I = K/R',
    source: 'elementary; K by the data sheet',
    inputs: [input('k', 'V', 'K of the data sheet'), input('amps', 'A', 'current wanted')],
    outputs: [figure('ohms', 'Ω', 'resistor'), figure('half', 'A', 'current at twice that')],
    of: ({ k, amps }) => {
      const ohms = programmingResistor(k!, amps!);
      return { ohms, half: programmedAmps(k!, 2 * ohms) };
    },
  },
  {
    name: 'inrush',
    about:
      'what rushes into a capacitance when it is connected, and how slowly a switch would have to let it',
    source: 'the series RLC circuit, textbook (from memory)',
    inputs: [
      input('volts', 'V', 'volts above those the capacitance has'),
      input('ohms', 'Ω', 'all resistance in series'),
      input('farads', 'F', 'capacitance'),
      input('henries', 'H', 'inductance of the wires', { usual: 0, least: 0 }),
      input('limit', 'A', 'current it is to stay below', { usual: 1 }),
      input('load', 'A', 'drawn by a load from the start', { usual: 0, least: 0 }),
    ],
    outputs: [
      figure('peak', 'A', 'peak'),
      figure('i2t', 'A²s', 'melting energy'),
      figure('heat', 'J', 'heat in what is in series'),
      figure('highest', 'V', 'highest volts at the capacitance'),
      figure('slew', 'V/s', 'slew of a load switch that keeps the limit'),
      figure('seconds', 's', 'how long that takes'),
      figure('switchHeat', 'J', 'heat in that switch'),
    ],
    of: ({ volts, ohms, farads, henries, limit, load }) => {
      const { peak, i2t, heat, highest } = inrush(volts!, ohms!, farads!, henries);
      const slew = limit! > load! ? slewAt(limit!, farads!, load!) : NaN;
      const slow = ramp(volts!, slew, farads!, load!);
      return { peak, i2t, heat, highest, slew, seconds: slow.seconds, switchHeat: slow.heat };
    },
  },
  {
    name: 'diode-or',
    about: 'rail of two supplies, each behind a diode of its own',
    source: 'Shockley’s diode and Kirchhoff',
    inputs: [
      input('first', 'V', 'volts of the first supply'),
      input('second', 'V', 'volts of the second'),
      input('ohms', 'Ω', 'resistance of each', { usual: 0.05 }),
      input('saturation', 'A', 'saturation current of each diode', { usual: 1e-7 }),
      input('emission', '', 'emission coefficient', { usual: 1.05 }),
      input('celsius', '°C', 'temperature of the diodes', { usual: 25, least: -60, most: 200 }),
      input('amps', 'A', 'load'),
    ],
    outputs: [
      figure('rail', 'V', 'volts of the rail'),
      figure('fromFirst', 'A', 'from the first'),
      figure('fromSecond', 'A', 'from the second'),
    ],
    of: ({ first, second, ohms, saturation, emission, celsius, amps }) => {
      const path = shockley(saturation!, emission!, ohms!, celsius!);
      const found = oredRail([first!, second!], [path, path], amps!);
      return {
        rail: found?.volts ?? NaN,
        fromFirst: found?.amps[0] ?? NaN,
        fromSecond: found?.amps[1] ?? NaN,
      };
    },
  },
];

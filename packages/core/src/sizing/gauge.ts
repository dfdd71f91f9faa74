import { hysteresisOhms, ladderString, tapVolts } from '../design/ladder.ts';
import { E24, E96, nearest } from '../design/eSeries.ts';
import { gaugeAmps, LIGHT_VOLTS, type Gauge } from '../model/gauge.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { LOOK } from '../plant/cellTable.ts';
import { compile } from '../plant/compile.ts';
import type { PackPlant } from '../plant/pack.ts';
import type { Reading } from '../run/reading/reading.ts';
import { readingOf } from '../run/reading/reading.ts';
import type { RunResult } from '../run/account/result.ts';
import { halve } from '../numeric/halve.ts';
import { packWhenFull } from './held.ts';

/** One level of a gauge. */
export interface GaugeLevel {
  /** wanted, of the charge that is of use, and the state of charge that is */
  level: number;
  soc: number;
  /** [V] of the pack there at its usual draw, and those at which the parts chosen tell it */
  wanted: number;
  volts: number;
  /** [V] behind the divider there, and what a converter says */
  divided: number;
  code?: number;
  /** what is left when it changes, as a level: at the usual draw, at rest and at the heaviest draw */
  usual: number;
  rest: number;
  heavy: number;
}

/** What a gauge tells of its own pack, and what it takes. */
export interface GaugeReading {
  levels: GaugeLevel[];
  /** [Ω] of the string, from ground up; empty of a converter */
  string: number[];
  /** [V] of the pack from which on it stands at the reference and tells no more */
  most: number;
  /** [A] it takes itself, and its lights on the mean */
  amps: { itself: number; lights: number };
  /** [Ω] before a light at the middle of the pack's volts, E24, and [A] through it at full and at the end */
  lightOhms?: number;
  lightAmps?: { full: number; end: number };
  /** [Ω] from a comparator's output to its input, E96 */
  hysteresisOhms?: number;
  /** [W] the pack gives on the mean, and at the heaviest */
  watts: { usual: number; heavy: number };
}

/** How a pack is drawn from: constant power or constant current; nothing at rest. */
export interface Drawn {
  watts?: number;
  amps?: number;
}

/** [V] of a source under constant power, V = E − R·P/V, the upper root; 0 where it cannot give that. Elementary. */
export function voltsAtPower(open: number, ohms: number, watts: number): number {
  const root = open * open - 4 * ohms * watts;
  return root < 0 ? 0 : (open + Math.sqrt(root)) / 2;
}

/**
 * [V] of a pack where the path begins, once its branches have settled: E − R·I, or the upper root of V = E − R·P/V.
 * @returns 0 where it cannot give that power
 */
export function loadedVolts(pack: PackPlant, soc: number, { watts = 0, amps = 0 }: Drawn): number {
  const looked = pack.cell.room();
  pack.cell.look(soc, looked);
  const whole = (pack.series / pack.parallel) * pack.cell.ohms(looked) + pack.seriesOhms;
  const open = pack.series * looked[LOOK.ocv]! - whole * amps;
  return voltsAtPower(open, whole, watts);
}

/** State of charge at which a pack drawn from stands at some volts; 0 or 1 beyond. It never rises as it empties. */
export function loadedSoc(pack: PackPlant, volts: number, drawn: Drawn): number {
  const [low, high] = halve(0, 1, (soc) => !(loadedVolts(pack, soc, drawn) < volts), HALVINGS);
  return (low + high) / 2;
}

const HALVINGS = 40;

/** What a gauge tells of its thread's pack, by the run's own draws. */
export function gaugeReading(doc: ThreadDocument, run: RunResult, gauge: Gauge): GaugeReading {
  const { pack } = compile(doc);
  const reading = readingOf(run);
  const watts = drawsOf(reading, run);
  const end = run.socAtUseful;
  const { reference, kind } = gauge;
  const ratio = gauge.lower / (gauge.upper + gauge.lower);
  const socOf = (level: number) => end + level * (1 - end);
  const levelOf = (soc: number) => Math.max(0, (soc - end) / (1 - end));
  const usual = { watts: watts.usual };
  const wanted = gauge.levels.map((level) => loadedVolts(pack, socOf(level), usual));
  const string =
    kind === 'ladder' ? ladderString(rising(wanted, ratio, reference), reference, gauge.string!) : [];
  const steps = 2 ** (gauge.bits ?? 8);
  const codes = wanted.map((v) => Math.min(steps - 1, Math.round(((v * ratio) / reference) * steps)));
  const taps =
    kind === 'ladder' ? tapVolts(string, reference) : codes.map((code) => (code * reference) / steps);
  const at = (volts: number, drawn: Drawn) => levelOf(loadedSoc(pack, volts, drawn));
  const { cell, series } = doc.pack;
  const middle = (series * (cell.fullVolts + cell.endVolts)) / 2;
  return {
    levels: gauge.levels.map((level, k) => {
      const volts = taps[k]! / ratio;
      return {
        ...{ level, soc: socOf(level), wanted: wanted[k]!, volts, divided: taps[k]! },
        ...(kind === 'converter' ? { code: codes[k]! } : {}),
        ...{ usual: at(volts, usual), rest: at(volts, {}), heavy: at(volts, { watts: watts.heavy }) },
      };
    }),
    string,
    most: reference / ratio,
    amps: gaugeAmps(gauge, middle),
    ...lightOf(gauge, middle, [series * cell.fullVolts, series * cell.endVolts]),
    ...hysteresisOf(gauge, ratio),
    watts,
  };
}

/** Taps that rise and stay below the reference, whatever is wanted: what cannot be told apart is a step of little. */
function rising(wanted: readonly number[], ratio: number, reference: number): number[] {
  const least = LEAST_STEP * reference;
  let before = 0;
  return wanted.map((v, k) => {
    const most = reference - (wanted.length - k) * least;
    return (before = Math.min(most, Math.max(before + least, v * ratio)));
  });
}

/** Share of the reference between taps at the least. */
const LEAST_STEP = 1e-4;

/** [W] the pack gives on the mean over the useful run, and at its heaviest. */
function drawsOf(reading: Reading, { usefulEnd, ledger }: RunResult): { usual: number; heavy: number } {
  const heavy = reading.mostWatts();
  const outside = ledger.entries.filter(
    ({ element }) => !IN_PACK.has(element) && !element.startsWith('drain-'),
  );
  const joules = outside.reduce((sum, e) => sum + e.joules, 0);
  return { usual: usefulEnd.time > 0 ? joules / usefulEnd.time : heavy, heavy };
}

/** What takes energy before the path begins. */
const IN_PACK: ReadonlySet<string> = new Set([
  'cells',
  'protection',
  'fuse',
  'leads',
  'connectors',
  'disconnect',
]);

function lightOf(
  { light, lightVolts = LIGHT_VOLTS }: Gauge,
  middle: number,
  [full, end]: readonly [number, number],
): Pick<GaugeReading, 'lightOhms' | 'lightAmps'> {
  if (!light || !(middle > lightVolts)) return {};
  const ohms = nearest(E24, (middle - lightVolts) / light);
  const amps = (volts: number) => Math.max(0, volts - lightVolts) / ohms;
  return { lightOhms: ohms, lightAmps: { full: amps(full), end: amps(end) } };
}

function hysteresisOf(gauge: Gauge, ratio: number): Pick<GaugeReading, 'hysteresisOhms'> {
  if (gauge.kind !== 'ladder' || !(gauge.hysteresis > 0)) return {};
  const source = (gauge.upper * gauge.lower) / (gauge.upper + gauge.lower);
  const ohms = hysteresisOhms(source, gauge.reference, gauge.hysteresis * ratio);
  return ohms > 0 ? { hysteresisOhms: nearest(E96, ohms) } : {};
}

/** Share of the reference at which a full pack stands behind the divider. Common practice, no source. */
const HEADROOM = 0.9;

/** A gauge to begin with: four levels, a reference of 1.2 V, a divider and a string of about a megaohm. Common practice. */
export function suggestGauge({ pack }: ThreadDocument): Gauge {
  const reference = 1.2;
  const lower = 1e5;
  const full = packWhenFull({ pack });
  const upper = nearest(E96, Math.max(100, lower * (full / (HEADROOM * reference) - 1)));
  return {
    ...{ kind: 'ladder', levels: [0.1, 0.25, 0.5, 0.75], reference, upper, lower, string: 1e6 },
    ...{ supply: 4e-6, hysteresis: 0.03 * pack.series, light: 1e-3, lightVolts: LIGHT_VOLTS },
  };
}

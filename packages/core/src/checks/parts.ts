import { isConverter, isRegulated, type Converter } from '../model/kinds/registry.ts';
import type { LimitSet } from '../model/parts.ts';
import { filterPeak, filteredRipple, REGULATED_SOURCE, RINGS } from '../design/filter.ts';
import { roomOf, type Envelope, type Figure } from '../sizing/envelope.ts';
import { outputLimitOf } from '../stages/limits.ts';
import { dividerVolts } from '../design/divider.ts';
import { RegulatedStage } from '../model/kinds/base.ts';
import { usesParts } from '../stages/switching.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';
import { offerNumber } from './offer.ts';

/** Share of a rating that should stay free. Common practice, no source. */
const LITTLE_ROOM = 0.1;

/** Real parts against their ratings and their divider; listings against chips. */
export function parts(c: CheckContext): Said[] {
  return c.doc.stages.flatMap((stage, k): Said[] => {
    const listing = isRegulated(stage) ? listingAgainstChip(c, k) : [];
    if (!isConverter(stage) || !usesParts(stage)) return listing;
    const envelope = c.envelope(k);
    return [
      ...listing,
      ...ratings(stage, envelope),
      ...divider(stage),
      ...filter(stage, envelope),
      ...skipping(stage, envelope),
    ];
  });
}

function ratings(stage: Converter, { figures, snapshots }: Envelope): Said[] {
  const short = figures.filter((f) => f.room !== undefined && f.room < LITTLE_ROOM && !BY_CONTROL.has(f.id));
  if (short.length === 0) return [];
  const worst = short.reduce((a, b) => (b.room! < a.room! ? b : a));
  const over = worst.room! < -1e-9;
  const begins = snapshots.find((s) => roomOf(worst, s.values[worst.index]!) < (over ? -1e-9 : LITTLE_ROOM));
  const others = short.filter((f) => f !== worst).map((f) => f.label.toLowerCase());
  const rest = others.length > 0 ? ` Also ${others.join('; ')}.` : '';
  return [
    {
      id: `ratings:${stage.id}`,
      severity: over ? 'fails' : 'tight',
      element: stage.id,
      title: `${stage.name}: ${worst.label.toLowerCase()} ${reading(worst)}`,
      reason: `${over ? 'That is past' : 'That leaves less than a tenth of'} its rating; parts spread, and cells differ.${rest}`,
      from: begins?.time ?? worst.worstTime,
      excess: 1 - worst.room!,
    },
  ];
}

/** The controller keeps these by itself; the run-down shows it as a mode. */
const BY_CONTROL = new Set(['peakLimit', 'duty', 'onTime']);

function reading(f: Figure): string {
  return `${formatQuantity(f.worst, f.unit)} of ${formatQuantity(f.rating!, f.unit)}`;
}

/** Difference of a divider's volts from the plan's worth a word, relative. */
const DIVIDER_OFF = 0.01;

function divider(stage: Converter): Said[] {
  const d = stage.parts!.divider;
  if (!d) return [];
  const volts = dividerVolts(d);
  if (Math.abs(volts / stage.outputVolts - 1) < DIVIDER_OFF) return [];
  const value = Number(volts.toPrecision(4));
  return [
    {
      id: `divider:${stage.id}`,
      severity: 'tight',
      element: stage.id,
      title: `${stage.name}: its divider sets ${formatQuantity(volts, 'V')}, the plan says ${formatQuantity(stage.outputVolts, 'V')}`,
      reason: `${formatQuantity(d.top, 'Ω')} over ${formatQuantity(d.bottom, 'Ω')} with a ${formatQuantity(d.reference, 'V')} reference.`,
      excess: Math.abs(volts / stage.outputVolts - 1) / DIVIDER_OFF,
      ...(value > d.reference
        ? offerNumber(
            RegulatedStage,
            ['stages', stage.id, 'outputVolts'],
            value,
            `Plan with ${formatQuantity(value, 'V')}`,
          )
        : {}),
    },
  ];
}

/** A stage that skips pulses though its current never stops: its on-time would be too short. */
function skipping(stage: Converter, { snapshots }: Envelope): Said[] {
  const { frequency, minOnTime } = stage.parts!;
  const skips = snapshots.filter(
    (s) => s.period && !s.period.discontinuous && s.period.frequency < 0.999 * frequency,
  );
  if (skips.length === 0) return [];
  const slowest = skips.reduce((a, b) => (b.period!.frequency < a.period!.frequency ? b : a));
  const from = skips[0]!.time;
  return [
    {
      id: `on-time:${stage.id}`,
      severity: 'note',
      element: stage.id,
      title: `${stage.name} skips pulses at ${formatQuantity(slowest.vin, 'V')}`,
      reason: `Its on-time would be shorter than ${formatQuantity(minOnTime, 's')}: the frequency falls to ${formatQuantity(slowest.period!.frequency, 'Hz')} and ripple grows. A lower frequency, or a stage before it, ends that.`,
      from,
    },
  ];
}

function filter(stage: Converter, { snapshots, mostAmps }: Envelope): Said[] {
  const f = stage.parts!.filter;
  if (!f || !(mostAmps > 0)) return [];
  const place = { source: REGULATED_SOURCE, load: stage.outputVolts / mostAmps };
  const peak = filterPeak(f, place);
  const ripple = snapshots.find((s) => s.period)?.period;
  if (peak.gain < RINGS) return [];
  const left = ripple ? filteredRipple(f, place, ripple.frequency, 1, Math.min(0.99, ripple.duty)) : NaN;
  const rest = Number.isNaN(left) ? '' : `; ${(100 * left).toFixed(1)} % of the ripple is left either way`;
  return [
    {
      id: `filter:${stage.id}`,
      severity: 'tight',
      element: stage.id,
      title: `${stage.name}: its filter rings at ${formatQuantity(peak.frequency, 'Hz')}, ${(20 * Math.log10(peak.gain)).toFixed(0)} dB up`,
      reason: `A load that draws in beats near there sees it. A damping capacitor of four times its own with the right resistor takes the peak away${rest}.`,
    },
  ];
}

/** A difference worth a word, relative. */
const DIFFERS = 0.05;

function listingAgainstChip(c: CheckContext, k: number): Said[] {
  const stage = c.doc.stages[k]!;
  if (!isRegulated(stage) || !stage.listing || !stage.chip) return [];
  const volts = stage.outputVolts;
  const said = outputLimitOf(stage.listing, volts);
  const holds = outputLimitOf(stage.chip, volts);
  const asked = c.reading.extremes(c.reading.stage(k, 'outputAmps')).most;
  const lines: string[] = [];
  if (said < Infinity && holds < Infinity && Math.abs(said / holds - 1) > DIFFERS) {
    lines.push(`${power(said, volts)} at the output, the chip ${power(holds, volts)}`);
  }
  const pairs: [keyof LimitSet, string, string][] = [
    ['inputAmps', 'A', 'of input current'],
    ['minInput', 'V', 'as least input'],
    ['maxInput', 'V', 'as highest input'],
    ['efficiency', '', 'efficiency'],
  ];
  for (const [name, unit, words] of pairs) {
    const [a, b] = [stage.listing[name], stage.chip[name]];
    if (a === undefined || b === undefined || Math.abs(a / b - 1) <= DIFFERS) continue;
    lines.push(`${formatQuantity(a, unit)} ${words}, the chip ${formatQuantity(b, unit)}`);
  }
  if (lines.length === 0) return [];
  const limit = Math.min(said, holds);
  return [
    {
      id: `listing:${stage.id}`,
      severity: asked > 0.9 * limit ? 'tight' : 'note',
      element: stage.id,
      title: `${stage.name}: its listing and its chip disagree`,
      reason: `The listing says ${lines.join('; ')}. The stricter figure counts here${asked > 0.9 * limit ? `; the run asks for ${power(asked, volts)}` : ''}.`,
    },
  ];
}

function power(amps: number, volts: number): string {
  return `${formatQuantity(amps, 'A')} (${formatQuantity(amps * volts, 'W')})`;
}

import type { ChargeControl, Charging } from '../model/charging.ts';
import { defaultBoost } from '../model/kinds/boost.ts';
import { defaultBuck } from '../model/kinds/buck.ts';
import { defaultBuckBoost } from '../model/kinds/buckBoost.ts';
import { defaultLinear } from '../model/kinds/linear.ts';
import type { Stage } from '../model/kinds/registry.ts';
import type { Offer } from '../model/sources/contracts.ts';
import type { Source } from '../model/sources/registry.ts';
import type { SupplySource } from '../model/sources/supply.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { RATE_ROOM } from '../charging/current.ts';
import { sourceLaw } from '../charging/source.ts';
import { TRIMMED } from '../charging/volts.ts';

/** [Ω] of a source's own regulation; and what an adapter takes from the wall besides. Common practice, no source. */
const DROOP = 0.1;
const WALL = { standby: 0.1, perWatt: 0.12, perSquareWatt: 0.001 } as const;

function supply(
  name: string,
  volts: number,
  limit: number,
  beyond: Source['beyond'] = 'hiccup',
): SupplySource {
  return { name, kind: 'supply', volts, droop: DROOP, limit, beyond, wall: { ...WALL }, grade: 'typical' };
}

/** What USB sources offer besides 5 V, by their power. USB Power Delivery: voltages and currents (from memory). */
const LADDER: readonly Offer[] = [
  { volts: 5, amps: 3 },
  { volts: 9, amps: 3 },
  { volts: 12, amps: 3 },
  { volts: 15, amps: 3 },
  { volts: 20, amps: 3 },
  { volts: 28, amps: 5 },
  { volts: 36, amps: 5 },
  { volts: 48, amps: 5 },
];

/** A source of so many watts that is asked for so many volts: 5 V and up, those beyond 20 V by 100 W and more. */
export function contractSource(asks: number, watts: number): Source {
  const offers = LADDER.filter((o) => o.volts <= 20 || watts > 100).map(({ volts, amps }) => ({
    volts,
    amps: Number(Math.min(volts <= 20 && watts > 60 ? 5 : amps, watts / volts).toFixed(2)),
  }));
  return {
    name: `USB-C ${asks} V, ${watts} W`,
    kind: 'contracts',
    offers,
    asks,
    droop: DROOP,
    beyond: 'hiccup',
    wall: { ...WALL },
    grade: 'typical',
  };
}

/** Sources to choose from, weakest first. */
export function usualSources(): Source[] {
  return [
    supply('USB port 0.5 A', 5, 0.5),
    supply('USB charging port 1.5 A', 5, 1.5),
    supply('USB-C 5 V 3 A', 5, 3),
    contractSource(9, 27),
    contractSource(12, 36),
    contractSource(15, 45),
    contractSource(20, 45),
    contractSource(28, 140),
    contractSource(36, 180),
    contractSource(48, 240),
    supply('Adapter 12 V 2 A', 12, 2, 'hard'),
    { ...supply('Bench supply', 24, 3, 'hard'), droop: 0.01 },
  ];
}

/** Rate a pack is charged at where nothing is said. Common practice, no source. */
const RATE = 0.5;
/** Share of a source's power that a charger is set to use, and its efficiency. Common practice, no source. */
const USED = 0.9;
const EFFICIENCY = 0.9;
/** [V] a charger that steps down wants above the full pack. Common practice, no source. */
const HEADROOM = 1;

/** A charger for a thread's pack and a source: of the kind that fits both, at half the cells' rate or what the source gives. */
export function suggestCharging(doc: ThreadDocument, source: Source): Charging {
  const { cell, series, parallel } = doc.pack;
  const { open, limit } = sourceLaw(source);
  const full = Number((TRIMMED * series * cell.fullVolts).toPrecision(4));
  const empty = series * cell.endVolts;
  const wanted = Math.min(RATE, RATE_ROOM * cell.chargeRate) * cell.capacityAh * parallel;
  const stage = chargerFor(open, full, empty, series);
  const most = stage.kind === 'linear' ? USED * limit : (USED * EFFICIENCY * open * limit) / full;
  const current = Number(Math.min(wanted, most).toPrecision(2));
  const control: ChargeControl = {
    current,
    sense: 'output',
    precharge: {
      below: cell.endVolts,
      current: Number((current / 10).toPrecision(2)),
      timer: 1,
    },
    terminate: Number((current / 10).toPrecision(2)),
    deglitch: 10,
    timer: Math.max(6, Math.ceil((4 * cell.capacityAh * parallel) / current)),
    inputLimit: Number((0.95 * limit).toPrecision(3)),
  };
  return {
    source,
    cable: { gaugeSystem: 'AWG', gauge: 24, length: 1, parallel: 1, temperature: 25 },
    contacts: { contacts: 4, contactResistance: 0.01 },
    stage: stage.kind === 'boost' ? { ...stage, inputLimit: Math.max(stage.inputLimit, 1.2 * limit) } : stage,
    control,
    meanwhile: 'off',
    from: 0.05,
  };
}

/** A stage that lifts or lowers a source's volts to a pack's. [V] */
function chargerFor(open: number, full: number, empty: number, series: number): Stage {
  const base = { maxInput: Math.max(28, Math.ceil(1.2 * open)), minInput: 3.5, grade: 'typical' as const };
  const common = { name: 'Charger', ...base };
  if (series === 1 && open <= 6.5) {
    const linear = defaultLinear('charger', 'source', full);
    return { ...linear, ...common, maxInput: 7, outputLimit: 10, thermalResistance: 40 };
  }
  if (open >= full + HEADROOM)
    return { ...defaultBuck('charger', 'source', full), ...common, outputLimit: 10 };
  if (open <= empty) return { ...defaultBoost('charger', 'source', full), ...common };
  return { ...defaultBuckBoost('charger', 'source', full), ...common, inputLimit: 6 };
}

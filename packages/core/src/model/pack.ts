import { Packing } from './body.ts';
import { CellRecord } from './cell.ts';
import { Choice, Flag, Part, Parts, Quantity, Text, Whole } from './fields.ts';
import { GRADES, type Grade } from './grade.ts';
import { Gauge, gaugeAmps } from './gauge.ts';
import { CellGroup, OddCells } from './group.ts';
import { PackWarmth } from './temperature.ts';

/** What lets the current through again after a board has opened for too much of it. */
export const RELEASES = ['unload', 'charger', 'time'] as const;

/** Protection board between the cells and everything else. */
export class Protection {
  @Quantity('V', 0.1, 6, 'Voltage of one cell at which the board opens', { label: 'Cut-off per cell' })
  cutoffVolts!: number;
  @Quantity('A', 1e-3, 2000, 'Current at which the board opens')
  tripCurrent!: number;
  @Quantity('Ω', 0, 10, 'Resistance of the switch and the sense resistor')
  resistance!: number;
  @Quantity('A', 0, 0.1, 'Current the board itself draws from the pack')
  quiescentCurrent!: number;
  @Quantity('s', 0, 100, 'How long that current must last before it opens; at once where not given', {
    optional: true,
  })
  tripDelay?: number;
  @Quantity('A', 1e-3, 10000, 'Current that counts as a short circuit', { optional: true })
  shortCurrent?: number;
  @Quantity('s', 0, 1, 'How long a short circuit must last before it opens', { optional: true })
  shortDelay?: number;
  @Quantity('s', 0, 100, 'How long a cell must stay below the cut-off before it opens', {
    optional: true,
    label: 'Cut-off delay',
  })
  cutoffDelay?: number;
  @Quantity('V', 0.1, 6, 'Voltage of one cell above which it closes again after a cut-off', {
    optional: true,
    label: 'Cut-off release',
  })
  releaseVolts?: number;
  @Quantity('V', 0.1, 6, 'Voltage of one cell at which the board stops a charge', {
    optional: true,
    label: 'Over-charge per cell',
  })
  overVolts?: number;
  @Quantity('A', 0, 10, 'Current by which it empties the fullest groups while a pack is charged', {
    optional: true,
    label: 'Balance current',
  })
  balanceCurrent?: number;
  @Quantity('V', 0.1, 6, 'Voltage of one cell above which it balances', {
    optional: true,
    label: 'Balances above',
  })
  balanceVolts?: number;
  @Choice(RELEASES, 'What closes it after a trip: the load taken off, a charger, or time', {
    optional: true,
    label: 'Trip released by',
  })
  release?: (typeof RELEASES)[number];
  @Flag('It must be woken, by a charger or a button, when cells are put in and after it has opened', {
    optional: true,
    label: 'Needs waking',
  })
  wakeUp?: boolean;
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
}

/** Something small that always draws: a level divider, a gauge, an indicator light, a leak. */
export class Drain {
  @Text(60, 'What it is')
  name!: string;
  @Quantity('A', 0, 1, 'Current it draws from the pack')
  current!: number;
  @Flag('Hangs behind the disconnect switch, so that this takes it off', { optional: true })
  switched?: boolean;
}

/** Fuse in the pack's positive lead. */
export class Fuse {
  @Quantity('A', 1e-3, 2000, 'Rated current')
  rating!: number;
  @Quantity('Ω', 0, 10, 'Cold resistance of the element and its holder')
  resistance!: number;
  @Quantity('A²s', 1e-6, 1e7, 'Melting i²t of a short pulse', { optional: true, label: 'Melting i²t' })
  meltingI2t?: number;
}

/** A pair of wires: there and back. */
export class Lead {
  @Choice(['AWG', 'mm²'], 'How the conductor is named')
  gaugeSystem!: 'AWG' | 'mm²';
  @Quantity('', -3, 500, 'Gauge number, or cross-section in mm² (class 5 flexible)', { label: 'Gauge' })
  gauge!: number;
  @Quantity('m', 0, 200, 'Length one way; the resistance counts there and back', { label: 'Length one way' })
  length!: number;
  @Whole(1, 50, 'Wires in parallel')
  parallel!: number;
  @Quantity('°C', -60, 200, 'Temperature of the conductor')
  temperature!: number;
}

/** Connector contacts in series with the pack, both poles counted. */
export class Connectors {
  @Whole(0, 50, 'Contacts the current passes, both poles')
  contacts!: number;
  @Quantity('Ω', 0, 1, 'Resistance of one contact')
  contactResistance!: number;
}

/** A switch that takes the pack off everything else when idle. */
export class Disconnect {
  @Quantity('Ω', 0, 10, 'Resistance when closed')
  resistance!: number;
  @Quantity('A', 0, 0.1, 'Current through it when open', { label: 'Leakage when open' })
  leakage!: number;
  @Flag('Stands before the protection board, so that the board rests too', { optional: true })
  beforeProtection?: boolean;
}

/** How a holder takes cells. */
export const HOLDERS = ['open', 'keyed'] as const;

/** Cells in series and parallel, and everything between them and the path. */
export class Pack {
  @Part(() => CellRecord, 'The cell')
  cell!: CellRecord;
  @Whole(1, 200, 'Cells in series')
  series!: number;
  @Whole(1, 500, 'Cells in parallel')
  parallel!: number;
  @Quantity('', 0.001, 1, 'State of charge when the run starts', { label: 'Charge at the start' })
  startSoc!: number;
  @Parts(
    () => CellGroup,
    [1, 200],
    'Groups in series that differ, from the negative end; the rest are as the record',
    {
      optional: true,
      label: 'Groups',
    },
  )
  groups?: CellGroup[];
  @Part(() => OddCells, 'Cells in each group that differ from those beside them', { optional: true })
  odd?: OddCells;
  @Part(() => PackWarmth, 'How it warms itself; without it its cells are as warm as the air', {
    optional: true,
  })
  warmth?: PackWarmth;
  @Part(() => Packing, 'What holders, strips and wrap add; the usual where left out', { optional: true })
  packing?: Packing;
  @Choice(
    HOLDERS,
    'A holder they are put into: open to either way round, or keyed so that they go one way only',
    {
      optional: true,
      label: 'Holder',
    },
  )
  holder?: (typeof HOLDERS)[number];
  @Part(() => Protection, 'Protection board', { optional: true })
  protection?: Protection;
  @Part(() => Fuse, 'Fuse', { optional: true })
  fuse?: Fuse;
  @Parts(() => Lead, [0, 10], 'Leads from the pack to the first stage')
  leads!: Lead[];
  @Part(() => Connectors, 'Connectors', { optional: true })
  connectors?: Connectors;
  @Part(() => Disconnect, 'Disconnect switch', { optional: true })
  disconnect?: Disconnect;
  @Parts(() => Drain, [0, 12], 'Small things that always draw', { optional: true })
  drains?: Drain[];
  @Part(() => Gauge, 'What shows how full it is', { optional: true })
  gauge?: Gauge;
}

/** Name of a drain as an element of the path. @param k its place in `drainsOf` */
export function drainId(k: number): string {
  return `drain-${k + 1}`;
}

/** All that always draws: what is listed, and the gauge with its lights, at the middle of the pack's volts. */
export function drainsOf({ drains = [], gauge, cell, series }: Pack): Drain[] {
  if (!gauge) return drains;
  const { itself, lights } = gaugeAmps(gauge, (series * (cell.fullVolts + cell.endVolts)) / 2);
  const switched = gauge.switched ? { switched: true } : {};
  const own = [
    { name: GAUGE_NAME, current: itself, ...switched },
    { name: LIGHTS_NAME, current: lights, ...switched },
  ];
  return [...drains, ...own.filter((d) => d.current > 0)];
}

/** What a gauge and its lights are called among the drains. */
export const GAUGE_NAME = 'Level gauge';
export const LIGHTS_NAME = 'Level lights';

/** The drain that such a name means; undefined where it is none. */
export function drainNamed(pack: Pack, element: string): Drain | undefined {
  return drainsOf(pack).find((_, k) => drainId(k) === element);
}

/** [V] a full pack rests at, by its cells' curve; [V] what it is charged to may be above. */
export function fullAtRest({ cell, series }: Pick<Pack, 'cell' | 'series'>): number {
  return series * Math.max(...cell.ocv.volts);
}

import { Choice, Part, PartOf, Parts, PartsOf, Quantity, Text } from './fields.ts';
import { StageBase } from './kinds/base.ts';
import { STAGE_VARIANTS, type Stage } from './kinds/registry.ts';
import { Connectors, Lead } from './pack.ts';
import { Divider } from './parts.ts';
import { SourceBase } from './sources/base.ts';
import { SOURCE_VARIANTS, type Source } from './sources/registry.ts';

/** A gentle current for cells that are very empty. */
export class Precharge {
  @Quantity('V', 0.1, 6, 'Volts a cell below which the current is gentle', { label: 'Below, per cell' })
  below!: number;
  @Quantity('A', 1e-4, 1000, 'The gentle current', { label: 'Current' })
  current!: number;
  @Quantity('h', 0.01, 100, 'After which it is given up', { optional: true, label: 'Given up after' })
  timer?: number;
}

/** A line of a sheet's table: the current at a resistance. */
export class ProgrammedPoint {
  @Quantity('Ω', 1, 1e8, 'Resistance between the pin and ground', { label: 'Resistance' })
  ohms!: number;
  @Quantity('A', 1e-4, 1000, 'Charge current', { label: 'Current' })
  amps!: number;
}

/** Lines of such a table. */
export const MOST_PROGRAMMED = 16;

/** Resistors that set the charge current: I = K over what is between the pin and ground, or as a table has it. */
export class Programming {
  @Quantity('V', 1e-3, 1e6, 'K of the chip: the current is K over the resistance', { label: 'K' })
  factor!: number;
  @Quantity('', 0, 0.5, 'Tolerance of K, or of the table', { label: 'Tolerance of K' })
  factorTolerance!: number;
  @Parts(
    () => ProgrammedPoint,
    [2, MOST_PROGRAMMED],
    'Table in the place of K, resistance rising, current falling',
    {
      optional: true,
    },
  )
  table?: ProgrammedPoint[];
  @Quantity('Ω', 1, 1e8, 'Fixed resistor', { label: 'Fixed resistor' })
  fixed!: number;
  @Quantity('', 0, 0.5, 'Tolerance of the fixed resistor', { label: 'Its tolerance' })
  fixedTolerance!: number;
  @Quantity('Ω', 1, 1e8, 'Potentiometer in series with it', { optional: true, label: 'Potentiometer' })
  pot?: number;
  @Quantity('', 0, 0.5, 'Tolerance of the potentiometer', { optional: true, label: 'Tolerance of the pot' })
  potTolerance?: number;
  @Quantity('', 0, 1, 'Share of the potentiometer that is in circuit', { optional: true, label: 'Turned to' })
  turn?: number;
}

/** How well a set point that has been trimmed by a meter stays. */
export class Trimmed {
  @Quantity('', 0, 0.1, 'Tolerance of the meter it was trimmed by', { label: 'Meter' })
  meter!: number;
  @Quantity('', 0, 0.1, 'Drift of reference and resistors afterwards', { label: 'Drift' })
  drift!: number;
}

/** What a charger looks at and holds: without it whatever is connected runs straight into the pack. */
export class ChargeControl {
  @Quantity('A', 1e-4, 1000, 'Charge current it is set to', { label: 'Charge current' })
  current!: number;
  @Choice(['output', 'input'], 'Where that current is sensed', { label: 'Sensed at its' })
  sense!: 'output' | 'input';
  @Part(() => Precharge, 'Precharge', { optional: true })
  precharge?: Precharge;
  @Quantity('A', 1e-5, 1000, 'Current of its output below which it ends; never where left out', {
    optional: true,
    label: 'Ends below',
  })
  terminate?: number;
  @Choice(['charger', 'battery'], 'Whose current that is: of its output, or into the battery alone', {
    optional: true,
    label: 'Of the',
  })
  endsBy?: 'charger' | 'battery';
  @Quantity('s', 0, 3600, 'How long the current must stay below without a break', {
    optional: true,
    label: 'For',
  })
  deglitch?: number;
  @Quantity('V', 0.1, 6, 'Volts a cell below which it begins anew', {
    optional: true,
    label: 'Begins anew below',
  })
  recharge?: number;
  @Quantity('h', 0.1, 1000, 'Safety timer', { optional: true, label: 'Safety timer' })
  timer?: number;
  @Quantity('A', 1e-3, 1000, 'Input current it holds at most', { optional: true, label: 'Input at most' })
  inputLimit?: number;
  @Quantity('V', 0.5, 100, 'Input volts it does not pull the source below', {
    optional: true,
    label: 'Keeps its input above',
  })
  inputVolts?: number;
  @Quantity('°C', -40, 60, 'Air below which its thermistor stops it', {
    optional: true,
    label: 'Stops below',
  })
  coldest?: number;
  @Quantity('°C', 0, 120, 'Air above which its thermistor stops it', { optional: true, label: 'Stops above' })
  hottest?: number;
  @Part(() => Programming, 'Resistors that set the current', { optional: true })
  programming?: Programming;
  @Quantity('', 0, 0.1, 'Its volts are fixed, within this share: nothing trims them', {
    optional: true,
    label: 'Fixed within',
  })
  fixed?: number;
  @Part(() => Divider, 'Divider that sets its volts', { optional: true, label: 'Volts set by' })
  divider?: Divider;
  @Part(() => Trimmed, 'Its volts have been trimmed by a meter', { optional: true })
  trimmed?: Trimmed;
}

/** A diode before the charger, or between it and the pack, not within what it looks at. */
export class SeriesDiode {
  @Quantity('V', 0, 3, 'Forward drop')
  volts!: number;
  @Quantity('Ω', 0, 10, 'Resistance')
  resistance!: number;
}

/** How an adapter and the battery meet on a rail. */
export const JOINS = ['diode', 'ideal', 'managed'] as const;

/** A rail that both feed, each through its own way. */
export class Join {
  @Text(40, 'The rail: `pack` or the id of the stage whose output it is', { label: 'On' })
  at!: string;
  @Choice(JOINS, 'Diodes, switches that act as diodes, or a path that lets the charger give way to the loads')
  kind!: (typeof JOINS)[number];
  @Part(() => SeriesDiode, 'Way from the adapter', { label: 'From the adapter' })
  adapter!: SeriesDiode;
  @Part(() => SeriesDiode, 'Way from the battery', { label: 'From the battery' })
  battery!: SeriesDiode;
  @Quantity('s', 0, 10, 'Until the battery carries once the adapter is gone', {
    optional: true,
    label: 'Takes over in',
  })
  wake?: number;
  @Quantity('F', 1e-9, 10, 'Capacitance on the rail', { optional: true, label: 'Capacitance' })
  capacitance?: number;
  @Quantity('Ω', 0, 10, 'Its series resistance', { optional: true, label: 'Its resistance' })
  esr?: number;
}

/** Most packs beside this one on its source. */
export const MOST_STATIONS = 15;

/** One more pack alike, with a charger alike, on the same source. */
export class Station {
  @Quantity('', 0, 1, 'State of charge it begins at', { label: 'From' })
  from!: number;
}

/** Most sources kept to compare with. */
export const MOST_TRIES = 8;

/** Where the loads are fed from while the pack is charged. */
export const MEANWHILE = ['battery', 'path', 'off'] as const;

/** What fills the pack: a source, its cable, a charger, and what the loads do meanwhile. */
export class Charging {
  @PartOf(() => SourceBase, SOURCE_VARIANTS, 'Source')
  source!: Source;
  @Part(() => Lead, 'Cable from the source', { optional: true })
  cable?: Lead;
  @Part(() => Connectors, 'Contacts of that cable', { optional: true, label: 'Contacts' })
  contacts?: Connectors;
  @PartOf(() => StageBase, STAGE_VARIANTS, 'Charger as a stage: its output volts are what it charges to')
  stage!: Stage;
  @Part(() => ChargeControl, 'What it looks at and holds', { optional: true, label: 'Control' })
  control?: ChargeControl;
  @Part(() => SeriesDiode, 'Diode before the charger', { optional: true, label: 'Diode before it' })
  inputDiode?: SeriesDiode;
  @Part(() => SeriesDiode, 'Diode behind it', { optional: true, label: 'Diode behind it' })
  diode?: SeriesDiode;
  @Choice(MEANWHILE, 'Loads meanwhile: on the battery, first from the source, or off', {
    label: 'Loads meanwhile',
  })
  meanwhile!: (typeof MEANWHILE)[number];
  @Text(40, 'Id of the mode the loads are in meanwhile; their programme where left out', {
    optional: true,
    label: 'In the mode',
  })
  mode?: string;
  @Part(() => Join, 'Where and how source and battery meet, where the loads are fed from the source', {
    optional: true,
  })
  join?: Join;
  @Quantity('', 0, 1, 'State of charge it begins at', { label: 'From' })
  from!: number;
  @Quantity('V', 0.1, 6, 'Volts a cell rests at when it begins, where it has been emptied below its end', {
    optional: true,
    label: 'Begins at rest at',
  })
  restVolts?: number;
  @Parts(() => Station, [0, MOST_STATIONS], 'More packs alike on the same source, each with such a charger', {
    optional: true,
  })
  stations?: Station[];
  @PartsOf(() => SourceBase, SOURCE_VARIANTS, [0, MOST_TRIES], 'Other sources to compare with', {
    optional: true,
    label: 'Other sources',
  })
  tries?: Source[];
}

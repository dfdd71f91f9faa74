import { CellRecord } from './cell.ts';
import { Choice, Flag, Part, Parts, Quantity, Text, Whole } from './fields.ts';
import { GRADES, type Grade } from './grade.ts';

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
  @Choice(GRADES, 'Where the figures come from')
  grade!: Grade;
}

/** Fuse in the pack's positive lead. */
export class Fuse {
  @Quantity('A', 1e-3, 2000, 'Rated current')
  rating!: number;
  @Quantity('Ω', 0, 10, 'Cold resistance of the element and its holder')
  resistance!: number;
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

/** The charger the pack is to have; drawn as a stub, carries nothing during a run-down. */
export class ChargerNote {
  @Text(60, 'What charges the pack')
  name!: string;
}

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
  @Part(() => ChargerNote, 'Charger', { optional: true })
  charger?: ChargerNote;
}

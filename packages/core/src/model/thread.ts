import { Backup } from './backup.ts';
import { BenchCell, BenchCurve, BenchReading, MOST_CURVES, MOST_GRADED, MOST_READINGS } from './readings.ts';
import { Belief } from './belief.ts';
import { Charging } from './charging.ts';
import { Choice, Flag, Part, Parts, PartsOf, Quantity, Text, Whole } from './fields.ts';
import { StageBase } from './kinds/base.ts';
import { STAGE_VARIANTS, type Stage } from './kinds/registry.ts';
import { Load } from './load.ts';
import { Pack } from './pack.ts';
import { LoadMode, MOST_MODES, Programme } from './programme.ts';
import { Surroundings, USUAL_SURROUNDINGS } from './surroundings.ts';

export const FORMAT = 'mile-thread';
export const VERSION = 9;

/** How long it must wait in a mode before it is used. */
export class Waiting {
  @Text(40, 'Id of the mode it waits in')
  mode!: string;
  @Quantity('h', 0, 1e6, 'How long', { label: 'Waits' })
  hours!: number;
}

/** Room for the pack. */
export class Room {
  @Quantity('m', 1e-3, 10, 'Length of the room')
  length!: number;
  @Quantity('m', 1e-3, 10, 'Width of the room')
  width!: number;
  @Quantity('m', 1e-3, 10, 'Height of the room')
  height!: number;
}

/** What the thread is to reach. */
export class Goals {
  @Quantity('h', 0, 1e6, 'How long it must last', { label: 'Must last' })
  hours!: number;
  @Quantity(
    'months',
    0,
    240,
    'How long it must keep on the shelf, everything off, before its cells are empty',
    {
      optional: true,
      label: 'Shelf',
    },
  )
  shelfMonths?: number;
  @Part(() => Waiting, 'How long it must wait in a mode before it is used', { optional: true })
  wait?: Waiting;
  @Part(() => Room, 'Room there is for the pack', { optional: true })
  room?: Room;
  @Quantity('kg', 1e-3, 1000, 'What its cells may weigh', { optional: true, label: 'Mass at most' })
  mass?: number;
  @Flag('It is carried by air', { optional: true, label: 'Carried by air' })
  byAir?: boolean;
  @Quantity('V', 1e-5, 10, 'Ripple its loads tolerate, peak to peak', { optional: true, label: 'Ripple' })
  ripple?: number;
  @Text(60, 'What will charge it', { optional: true, label: 'Charged from' })
  chargedFrom?: string;
  @Quantity('h', 0.05, 1000, 'How long charging may take', { optional: true, label: 'Charged within' })
  chargeHours?: number;
}

/** Most stages a thread may have. */
export const MOST_STAGES = 16;

/** A design: one path from a pack to its loads. This is the thread file. */
export class ThreadDocument {
  @Choice([FORMAT], 'Marks a thread file')
  format!: typeof FORMAT;
  @Whole(VERSION, VERSION, 'Version of the format')
  version!: typeof VERSION;
  @Text(120, 'Name of the thread')
  name!: string;
  @Text(4000, 'Notes', { optional: true })
  notes?: string;
  @Part(() => Goals, 'What the thread is to reach')
  goals!: Goals;
  @Part(() => Surroundings, 'What it works in: the air around its parts', { optional: true })
  conditions?: Surroundings;
  @Part(() => Belief, 'How far its figures may be off', { optional: true })
  belief?: Belief;
  @Part(() => Pack, 'The pack')
  pack!: Pack;
  @PartsOf(() => StageBase, STAGE_VARIANTS, [0, MOST_STAGES], 'Stages')
  stages!: Stage[];
  @Parts(() => Load, [0, 32], 'Loads')
  loads!: Load[];
  @Parts(() => LoadMode, [1, MOST_MODES], 'Modes in which the loads work', { optional: true })
  modes?: LoadMode[];
  @Part(() => Programme, 'What the loads do over time; without it all are on all the time', {
    optional: true,
  })
  programme?: Programme;
  @Part(() => Charging, 'What fills the pack', { optional: true })
  charging?: Charging;
  @Part(() => Backup, 'What mains does, where the pack carries the loads without it', { optional: true })
  backup?: Backup;
  @Parts(() => BenchReading, [0, MOST_READINGS], 'What was measured', { optional: true, label: 'Readings' })
  readings?: BenchReading[];
  @Parts(() => BenchCurve, [0, MOST_CURVES], 'Run-downs that were logged', {
    optional: true,
    label: 'Curves',
  })
  curves?: BenchCurve[];
  @Parts(() => BenchCell, [0, MOST_GRADED], 'Cells that are graded for its pack', {
    optional: true,
    label: 'Graded cells',
  })
  graded?: BenchCell[];
}

/** Where a stage or load hangs when it hangs on the pack itself. */
export const PACK = 'pack';

/** Ids of the stages and loads that hang on a stage or on the pack. */
export function elementsFed(doc: ThreadDocument, from: string): string[] {
  return [...doc.stages, ...doc.loads].filter((x) => x.from === from).map((x) => x.id);
}

/** The air a thread works in: as it states, else the usual. */
export function surroundingsOf(doc: ThreadDocument): Readonly<Surroundings> {
  return doc.conditions ?? USUAL_SURROUNDINGS;
}

/** An id for a stage more. */
export function unusedStageId({ stages, loads }: Pick<ThreadDocument, 'stages' | 'loads'>): string {
  const taken = new Set([...stages, ...loads].map((x) => x.id));
  let n = 1;
  while (taken.has(`stage-${n}`)) n++;
  return `stage-${n}`;
}

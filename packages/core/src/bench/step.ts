/** Where a probe of the plan goes: a pole of the pack, a rail, the source, the charger's output. */
export type Node = { at: 'pack' | 'minus' | 'cell' | 'source' | 'charger' } | { at: 'stage'; id: string };

/** What a step of the plan is read with. */
export type InstrumentKind = 'eyes' | 'volts' | 'amps' | 'clock';

/** Parts of the plan, in the order in which they are safe. */
export const PLAN_PARTS = [
  'look',
  'cells',
  'setPoints',
  'idle',
  'load',
  'charging',
  'protection',
  'run',
] as const;
export type PlanPart = (typeof PLAN_PARTS)[number];

/** What a reading ought to be, with the range in which eight of ten are. */
export interface Predicted {
  value: number;
  p10: number;
  p90: number;
}

/** One step of a measuring plan. */
export interface PlanStep {
  /** stable: readings name it */
  id: string;
  part: PlanPart;
  title: string;
  /** what to do, one or two sentences */
  how: string;
  /** red and black probe; of a current, what it is broken open between */
  probes: readonly [Node, Node] | readonly [];
  instrument: InstrumentKind;
  unit: '' | 'V' | 'A' | 'h';
  predicted?: Predicted;
  /** the stage whose set point may be turned here */
  trims?: string;
  /** what it would settle */
  settles: string;
  /** where it can hurt */
  caution?: string;
}

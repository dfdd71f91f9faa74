import type { ThreadDocument } from '../../model/thread.ts';
import { ranged } from '../../belief/firstOrder.ts';
import type { RunResult } from '../../run/account/result.ts';
import type { InstrumentKind, Node, PlanPart, PlanStep, Predicted } from '../step.ts';

/** Figures that are read as they are: what is set somewhere. */
export type SetKind =
  | 'setPoint'
  | 'stopVolts'
  | 'chargeCurrent'
  | 'termination'
  | 'openVolts'
  | 'droop'
  | 'cutoff'
  | 'trip';

/** What a thread would show. */
export interface Shown {
  doc: ThreadDocument;
  /** down to its end */
  run: RunResult;
  /** [A] with everything off */
  idle: number;
  /** full, in a mode, or with everything on */
  full(mode: string | undefined): Full;
}

/** [A] out of the pack, [V] behind its protection, and at the output of each stage. */
export interface Full {
  amps: number;
  volts: number;
  rails: readonly number[];
}

/** What is to be seen to before a step is read, at a bench that can be told. */
export interface Hands {
  /** the pack full and rested, or at a state of charge */
  pack?: 'full' | number;
  /** loads on: in the mode the step is of */
  loads?: boolean;
  /** [A] of an electronic load on the source */
  onSource?(doc: ThreadDocument): number;
  /** the charger on */
  charger?: boolean;
  /** somebody has to watch for what is read: it comes when it comes, or for an instant */
  watched?: true;
}

/**
 * A kind of steps of the measuring plan, all that is known of it: which steps a design has, what to do and to see there, with what, and
 * what it settles. One file each, and a line in the registry, whose order is that in which it is safe.
 */
export interface StepKind {
  /** its steps' id, or what that begins with: readings name it */
  readonly name: string;
  readonly part: PlanPart;
  readonly instrument: InstrumentKind;
  readonly unit: PlanStep['unit'];
  /** its steps in a design. @param found predictions by id */
  steps?(doc: ThreadDocument, found: Predictions): Step[];
  /** the same of kinds that come again in each mode. @param mode its id; none without modes @param as the mode in words */
  inMode?(doc: ThreadDocument, found: Predictions, mode: string, as: string): Step[];
  /** what a thread would show there, by id */
  shows?(seen: Shown): [id: string, value: number][];
  /** figures that are read here as they are, each with the step of an element, or what that begins with */
  readonly reads?: Partial<Record<SetKind, (element: string) => string>>;
  readonly hands?: Hands;
  /** cells in series that it reads at rest, where it does */
  rests?(doc: Pick<ThreadDocument, 'pack'>): number;
}

export type Predictions = ReadonlyMap<string, Predicted>;

/** A step as its kind says it. */
export type Step = Omit<PlanStep, 'part' | 'instrument' | 'unit'>;

/** A step with what is the same of all of its kind. */
export function whole({ part, instrument, unit }: StepKind, step: Step): PlanStep {
  return { ...step, part, instrument, unit };
}

export const MINUS: Node = { at: 'minus' };
export const PACK: Node = { at: 'pack' };
export const SOURCE: Node = { at: 'source' };
export const CHARGER: Node = { at: 'charger' };
export const railOf = (id: string): Node => ({ at: 'stage', id });

/** @param within half the range in which 95 of 100 are */
export function around(value: number, within: number): Predicted {
  return ranged(value, within / 2);
}

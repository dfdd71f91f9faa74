import { cutoff, trip } from './board.ts';
import { chargeCurrent, chargeEnd, chargeStop } from './charge.ts';
import { dip } from './dip.ts';
import { idle } from './idle.ts';
import type { SetKind, StepKind } from './kind.ts';
import { loadSteps } from './loadSteps.ts';
import { look } from './look.ts';
import { openCell, openPack } from './open.ts';
import { runDown } from './runDown.ts';
import { setPoint } from './setPoint.ts';
import { sourceHalf, sourceOpen } from './source.ts';
import { draw, rail, sag } from './underLoad.ts';

/** Every kind of step, in the order in which it is safe: what is looked at before anything is connected, volts without load, what flows with everything off, loads, the charger, the board, a run-down. */
export const STEP_KINDS: StepKind[] = [
  ...[look, openCell, openPack, setPoint, idle],
  ...[draw, sag, rail, dip, loadSteps],
  ...[sourceOpen, sourceHalf, chargeStop, chargeCurrent, chargeEnd],
  ...[cutoff, trip, runDown],
];

/** The kind of a step by its id; undefined where no design has such a step. */
export function kindOf(id: string): StepKind | undefined {
  return STEP_KINDS.find(({ name }) => id === name || id.startsWith(`${name}:`));
}

/** Ids of the steps at which a figure that is set is read as it is, or what they begin with. */
export function readAt(kind: string, element: string): string[] {
  return STEP_KINDS.flatMap(({ reads }) => reads?.[kind as SetKind]?.(element) ?? []);
}

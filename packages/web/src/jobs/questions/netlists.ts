import { pathNetlist, stageNetlist, type NetlistPoint } from '@mile-thread/core';
import type { Converter, ThreadDocument } from '@mile-thread/core/model';
import { runOf } from './runs.ts';

/** A switched circuit of a stage with parts. */
export function circuit(stage: Converter, point: NetlistPoint): string {
  return stageNetlist(stage, point);
}

/** The path at an instant, as a circuit. @param time [s] */
export function pathCircuit(doc: ThreadDocument, time: number): string {
  return pathNetlist(doc, runOf(doc), time);
}

import { Quantity } from '../fields.ts';
import { StageBase } from './base.ts';

/** A plain connection: a switch, a long lead, a shunt. Only its resistance counts. */
export class DirectStage extends StageBase {
  declare kind: 'direct';
  @Quantity('Ω', 0, 1000, 'Resistance in series')
  resistance!: number;
}

declare module './registry.ts' {
  interface StageTypes {
    direct: DirectStage;
  }
}

export function defaultDirect(id: string, from: string): DirectStage {
  return { id, from, kind: 'direct', name: 'Direct', resistance: 0.01, maxInput: 60, grade: 'assumed' };
}

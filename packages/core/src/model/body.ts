import { Choice, Parts, Quantity, Text } from './fields.ts';

export const BODIES = ['cylinder', 'pouch'] as const;

/** What a cell takes up. */
export class CellBody {
  @Choice(BODIES, 'What it is like')
  kind!: string;
}

/** A round cell in its sleeve. */
export class CylinderBody extends CellBody {
  declare kind: 'cylinder';
  @Quantity('m', 1e-3, 0.5, 'Diameter in its sleeve')
  diameter!: number;
  @Quantity('m', 1e-3, 1, 'Height with its ends')
  height!: number;
}

/** A flat cell. */
export class PouchBody extends CellBody {
  declare kind: 'pouch';
  @Quantity('m', 1e-3, 1, 'Length without its tabs')
  length!: number;
  @Quantity('m', 1e-3, 1, 'Width')
  width!: number;
  @Quantity('m', 1e-4, 0.5, 'Thickness when it is old: pouches swell')
  thickness!: number;
}

export const BODY_VARIANTS = {
  property: 'kind',
  classes: { cylinder: CylinderBody, pouch: PouchBody },
};
export type Body = CylinderBody | PouchBody;

/** A board or another box that lies beside the cells. */
export class BoardBox {
  @Text(60, 'What it is')
  name!: string;
  @Quantity('m', 1e-4, 10, 'Length of the board')
  length!: number;
  @Quantity('m', 1e-4, 10, 'Width of the board')
  width!: number;
  @Quantity('m', 1e-4, 10, 'Height of the board with its parts')
  height!: number;
  @Quantity('kg', 0, 100, 'Mass of the board', { optional: true })
  mass?: number;
}

/** Boards at most. */
export const MOST_BOARDS = 4;

/** What holders, strips and wrap add. */
export class Packing {
  @Quantity('m', 0, 0.1, 'Between neighbours side by side', { label: 'Between cells' })
  gap!: number;
  @Quantity('m', 0, 0.1, 'Between layers end to end', { label: 'Between layers' })
  axial!: number;
  @Quantity('m', 0, 0.1, 'Around all of it on every side', { label: 'Around' })
  around!: number;
  @Quantity('', 0, 5, 'What wires, strips and wrap weigh, as a share of the cells', { label: 'Wiring share' })
  wiring!: number;
  @Parts(() => BoardBox, [1, MOST_BOARDS], 'Boards beside the cells, in the same room', { optional: true })
  boards?: BoardBox[];
}

/** Used where a pack states none: shrink wrap and spot-welded strips. Common practice, no source. */
export const USUAL_PACKING: Readonly<Packing> = { gap: 0.0005, axial: 0.001, around: 0.001, wiring: 0.12 };

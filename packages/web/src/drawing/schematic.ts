import type { Picture } from '@mile-thread/core/model';
import type { PartId, Switching } from '@mile-thread/core';

/** A part's symbol, centred at x, y. [px] */
export interface PartSymbol {
  part: PartId | 'pass';
  shape: 'switch' | 'diode' | 'inductor' | 'capacitor' | 'pass';
  x: number;
  y: number;
  vertical: boolean;
  /** “S1”; empty for parts that need no name */
  name: string;
  /** which way of the bridge it is, for what it does at the needle */
  way?: 'a' | 'b' | 'c' | 'd';
}

/** Where a part's values stand: their corner nearest to the part. */
export interface PartLabel {
  part: PartId | 'pass';
  x: number;
  y: number;
  align: 'left' | 'centre' | 'right';
}

export interface Schematic {
  width: number;
  height: number;
  /** polylines */
  wires: [number, number][][];
  symbols: PartSymbol[];
  labels: PartLabel[];
}

export const WIDTH = 680;
export const HEIGHT = 206;
const TOP = 40;
const MID = 102;
const LOW = 172;
/** half height of a switch's box, half length of a coil */
const BOX = 15;
export const COIL = 58;

type Diodes = Partial<Record<PartId, boolean>>;

/** A stage drawn with its parts. @param diodes which rectifiers are diodes */
export function schematic(picture: Picture, diodes: Diodes): Schematic {
  const common = { width: WIDTH, height: HEIGHT };
  const ground: [number, number][] = [
    [40, LOW],
    [640, LOW],
  ];
  if (picture.shape === 'sepic') return { ...common, ...sepic(ground, diodes) };
  if (picture.shape !== 'bridge') {
    return {
      ...common,
      wires: [
        [
          [40, TOP],
          [290, TOP],
        ],
        [
          [390, TOP],
          [640, TOP],
        ],
        ground,
        ...(picture.shape === 'pass'
          ? [
              [
                [340, TOP + 24],
                [340, LOW],
              ] as [number, number][],
            ]
          : []),
      ],
      symbols: [{ part: 'pass', shape: 'pass', x: 340, y: TOP, vertical: false, name: '' }],
      labels: [{ part: 'pass', x: 360, y: 118, align: 'left' }],
    };
  }
  const { left, right } = picture;
  const four = left && right;
  const wires: [number, number][][] = [ground];
  const symbols: PartSymbol[] = [];
  const labels: PartLabel[] = [];
  const leg = (
    x: number,
    top: PartId,
    low: PartId,
    names: [string, string],
    ways: ['a' | 'd', 'b' | 'c'],
  ) => {
    const outer = x < 340 ? ('right' as const) : ('left' as const);
    const shift = x < 340 ? -26 : 26;
    [
      { part: top, y: (TOP + MID) / 2, name: names[0], way: ways[0] },
      { part: low, y: (MID + LOW) / 2, name: names[1], way: ways[1] },
    ].forEach(({ part, y, name, way }) => {
      const diode = diodes[part] === true;
      symbols.push({
        part,
        shape: diode ? 'diode' : 'switch',
        x,
        y,
        vertical: true,
        name: diode ? '' : name,
        way,
      });
      labels.push({ part, x: x + shift, y, align: outer });
    });
    wires.push(
      [
        [x, TOP],
        [x, (TOP + MID) / 2 - BOX],
      ],
      [
        [x, (TOP + MID) / 2 + BOX],
        [x, (MID + LOW) / 2 - BOX],
      ],
    );
    wires.push([
      [x, (MID + LOW) / 2 + BOX],
      [x, LOW],
    ]);
  };
  if (left) {
    wires.push([
      [40, TOP],
      [220, TOP],
    ]);
    leg(220, four ? 'buckHigh' : 'main', four ? 'buckLow' : 'rectifier', four ? ['S1', 'S2'] : ['S', 'R'], [
      'a',
      'b',
    ]);
  } else
    wires.push([
      [40, TOP],
      [220, TOP],
      [220, MID],
    ]);
  if (right) {
    wires.push([
      [460, TOP],
      [640, TOP],
    ]);
    leg(460, four ? 'boostHigh' : 'rectifier', four ? 'boostLow' : 'main', four ? ['S4', 'S3'] : ['R', 'S'], [
      'd',
      'c',
    ]);
  } else
    wires.push([
      [460, MID],
      [460, TOP],
      [640, TOP],
    ]);
  wires.push(
    [
      [220, MID],
      [340 - COIL, MID],
    ],
    [
      [340 + COIL, MID],
      [460, MID],
    ],
  );
  symbols.push({ part: 'inductor', shape: 'inductor', x: 340, y: MID, vertical: false, name: '' });
  labels.push({ part: 'inductor', x: 340, y: MID + 12, align: 'centre' });
  capacitor(wires, symbols, labels, 'inputCapacitor', 96, 'left');
  capacitor(wires, symbols, labels, 'outputCapacitor', 584, 'right');
  return { ...common, wires, symbols, labels };
}

/** From the upper rail to ground; its values on the outer or inner side. */
function capacitor(
  wires: Schematic['wires'],
  symbols: PartSymbol[],
  labels: PartLabel[],
  part: PartId,
  x: number,
  side: 'left' | 'right',
): void {
  wires.push(
    [
      [x, TOP],
      [x, MID - 4],
    ],
    [
      [x, MID + 4],
      [x, LOW],
    ],
  );
  symbols.push({ part, shape: 'capacitor', x, y: MID, vertical: true, name: '' });
  labels.push({ part, x: side === 'left' ? x + 20 : x + 20, y: MID, align: 'left' });
}

function sepic(ground: [number, number][], diodes: Diodes) {
  const wires: [number, number][][] = [ground];
  const symbols: PartSymbol[] = [];
  const labels: PartLabel[] = [];
  const put = (
    part: PartId,
    shape: PartSymbol['shape'],
    x: number,
    y: number,
    vertical: boolean,
    name = '',
    way?: 'c' | 'd',
  ) => symbols.push({ part, shape, x, y, vertical, name, ...(way ? { way } : {}) });
  const [node, second] = [290, 420];
  wires.push(
    [
      [40, TOP],
      [190 - COIL + 6, TOP],
    ],
    [
      [190 + COIL + 6, TOP],
      [351, TOP],
    ],
    [
      [359, TOP],
      [478, TOP],
    ],
  );
  put('inductor', 'inductor', 196, TOP, false);
  labels.push({ part: 'inductor', x: 196, y: TOP + 10, align: 'centre' });
  const y = (TOP + LOW) / 2;
  wires.push(
    [
      [node, TOP],
      [node, y - BOX],
    ],
    [
      [node, y + BOX],
      [node, LOW],
    ],
  );
  put('main', 'switch', node, y, true, 'S', 'c');
  labels.push({ part: 'main', x: node - 26, y: y + 12, align: 'right' });
  put('couplingCapacitor', 'capacitor', 355, TOP, false);
  labels.push({ part: 'couplingCapacitor', x: 355, y: TOP + 16, align: 'centre' });
  wires.push(
    [
      [second, TOP],
      [second, y - COIL + 6],
    ],
    [
      [second, y + COIL - 6],
      [second, LOW],
    ],
  );
  put('secondInductor', 'inductor', second, y, true);
  labels.push({ part: 'secondInductor', x: second + 20, y: y + 8, align: 'left' });
  const diode = diodes.rectifier === true;
  put('rectifier', diode ? 'diode' : 'switch', 493, TOP, false, diode ? '' : 'R', 'd');
  labels.push({ part: 'rectifier', x: 493, y: TOP + 18, align: 'centre' });
  wires.push([
    [508, TOP],
    [640, TOP],
  ]);
  capacitor(wires, symbols, labels, 'inputCapacitor', 84, 'left');
  capacitor(wires, symbols, labels, 'outputCapacitor', 584, 'right');
  return { wires, symbols, labels };
}

/** Path of a coil of half-circles about its middle. */
export function coilPath(x: number, y: number, vertical: boolean): string {
  const turns = vertical ? 5 : 6;
  const half = vertical ? COIL - 6 : COIL;
  const r = half / turns;
  const arc = vertical ? `a${r} ${r} 0 0 1 0 ${2 * r}` : `a${r} ${r} 0 0 1 ${2 * r} 0`;
  return `M${vertical ? x : x - half} ${vertical ? y - half : y}${arc.repeat(turns)}`;
}

/** What a switch does all the time in a way of switching: nothing moves, or it takes turns. */
export type WayState = 'closed' | 'open' | 'switching';

/** What each way of the bridge does, by the way it is switched. */
const WAY_STATES: Record<Switching, Record<'a' | 'b' | 'c' | 'd', WayState>> = {
  buck: { a: 'switching', b: 'switching', c: 'open', d: 'closed' },
  boost: { a: 'closed', b: 'open', c: 'switching', d: 'switching' },
  sepic: { a: 'closed', b: 'open', c: 'switching', d: 'switching' },
  both: { a: 'switching', b: 'switching', c: 'switching', d: 'switching' },
  simultaneous: { a: 'switching', b: 'switching', c: 'switching', d: 'switching' },
};

export function wayStates(switching: Switching) {
  return WAY_STATES[switching];
}

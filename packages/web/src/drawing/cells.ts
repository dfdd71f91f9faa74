/** The pack as it is drawn: every cell of a small one, one cell and its count of a large one. Pixels. */
export interface Cells {
  /** left edge and middle */
  x: number;
  y: number;
  width: number;
  height: number;
  cans: { x: number; y: number; width: number; height: number }[];
  /** `× 12` where not every cell is drawn */
  times: string | undefined;
}

/** Most cells drawn one by one. */
const MOST = 8;
const HEIGHT = 60;
const CAN = 19;
const GAP = 5;
/** Width of the columns' room: beyond it they are drawn narrower. */
const ROOM = 124;
const LEAST = 11;
/** Room for the count beside a single can. */
const WORDS = 44;

/** A column for each cell in series, a row for each in parallel. */
export function placeCells(series: number, parallel: number, x: number, y: number): Cells {
  const top = y - HEIGHT / 2;
  if (series * parallel > MOST) {
    const can = { x, y: top, width: CAN, height: HEIGHT };
    return { x, y, width: CAN + WORDS, height: HEIGHT, cans: [can], times: `× ${series * parallel}` };
  }
  const can = Math.max(LEAST, Math.min(CAN, ROOM / series - GAP));
  const row = (HEIGHT - (parallel - 1) * GAP) / parallel;
  const cans = Array.from({ length: series * parallel }, (_, k) => ({
    x: x + (k % series) * (can + GAP),
    y: top + Math.floor(k / series) * (row + GAP),
    width: can,
    height: row,
  }));
  return { x, y, width: series * (can + GAP) - GAP, height: HEIGHT, cans, times: undefined };
}

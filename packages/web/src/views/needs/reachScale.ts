/** A scale of volts by their logarithm, as packs and rails are multiples of one another. */
export interface VoltScale {
  /** px of the drawing */
  height: number;
  /** [V] round values that get a line */
  ticks: number[];
  /** px from the top of a value [V] */
  y(volts: number): number;
}

const HEIGHT = 168;
/** px above the highest and below the lowest bar, for its number. */
const WORDS = 18;
const ROUND = [0.5, 1, 2, 3, 5, 10, 20, 30, 50, 100, 200, 300, 500, 1000];

/** @param spans [V] from and to of all that is drawn; at least one */
export function voltScale(spans: readonly (readonly [number, number])[]): VoltScale {
  const low = Math.log(Math.max(0.1, Math.min(...spans.map(([from]) => from))));
  const high = Math.max(low + 0.1, Math.log(Math.max(...spans.map(([, to]) => to))));
  const y = (volts: number) => {
    const share = (Math.log(Math.max(0.1, volts)) - low) / (high - low);
    return HEIGHT - WORDS - share * (HEIGHT - 2 * WORDS);
  };
  const ticks = ROUND.filter((v) => y(v) >= WORDS / 2 && y(v) <= HEIGHT - WORDS / 2);
  return { height: HEIGHT, ticks, y };
}

/** px that a name takes. */
const NAME = 17;

/** Places for names beside what they name, none on another. @param at px from the top, in any order */
export function namesApart(at: readonly number[], height: number): number[] {
  const order = at.map((y, k) => ({ y, k })).sort((a, b) => a.y - b.y);
  let least = NAME / 2;
  for (const name of order) {
    name.y = Math.max(name.y, least);
    least = name.y + NAME;
  }
  let most = Math.max(height - NAME / 2, order.length * NAME);
  for (const name of order.reverse()) {
    name.y = Math.min(name.y, most);
    most = name.y - NAME;
  }
  const places: number[] = [];
  for (const { y, k } of order) places[k] = y;
  return places;
}

/**
 * Close in on where something begins to hold that holds from there on, by halves. Elementary.
 * @param low where it does not hold, or is not asked @param high where it holds, or is not asked
 * @param holds rising: once true it stays so @param times halvings @param middle of two, the mean where nothing is said
 * @returns the last place at which it does not hold, and the first at which it does
 */
export function halve(
  low: number,
  high: number,
  holds: (x: number) => boolean,
  times: number,
  middle: (a: number, b: number) => number = mean,
): [number, number] {
  let [a, b] = [low, high];
  for (let n = 0; n < times; n++) {
    const x = middle(a, b);
    if (holds(x)) b = x;
    else a = x;
  }
  return [a, b];
}

const mean = (a: number, b: number) => (a + b) / 2;

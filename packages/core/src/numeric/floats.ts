/** Numbers a block has room for. */
const BLOCK = 4096;
/** Numbers that the machine keeps with the object itself: those cost nothing more. */
const OWN = 8;

let block = new Float64Array(BLOCK);
let used = 0;

/**
 * Zeros for as long as a run's numbers live, cut off a block that many share: an array of its own for each costs a run a
 * tenth of its time in asking for memory and clearing it away. Nothing is handed out twice.
 * @param count few; what is kept beyond a run is better kept in an array of its own, which holds no others with it
 */
export function floats(count: number): Float64Array {
  if (count <= OWN || count > BLOCK / 4) return new Float64Array(count);
  if (used + count > BLOCK) {
    block = new Float64Array(BLOCK);
    used = 0;
  }
  const own = new Float64Array(block.buffer, 8 * used, count);
  used += count;
  return own;
}

/** One number of each entry of a list: `Float64Array.from` asks an iterator for each, which a run's start feels. */
export function floatsOf<T>(list: readonly T[], of: (entry: T, place: number) => number): Float64Array {
  const own = floats(list.length);
  for (let k = 0; k < own.length; k++) own[k] = of(list[k]!, k);
  return own;
}

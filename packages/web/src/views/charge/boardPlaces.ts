/** [px] */
export const HEIGHT = 236;
/** Where the ribbon runs. px */
export const Y = 112;
/** px the widest ribbon is. */
export const STOUT = 56;
export const KNOT = 31;

/** Where the parts of the board stand, by its width. [px] */
export function places(width: number) {
  const plate = 150;
  const source = width - plate - 14;
  const first = 168;
  const span = source - first;
  const [cut, knot] = [first + 0.2 * span, first + 0.5 * span];
  const tap = { battery: cut + 44, path: knot + 56 };
  return { first, cut, knot, cable: first + 0.78 * span, source, plate, tap };
}

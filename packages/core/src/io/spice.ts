/** A number as every SPICE reads it. */
export function spiceNumber(value: number, digits = 12): string {
  return Number(value.toPrecision(digits)).toString();
}

/** A text for a comment: one line of printable ASCII. */
export function spiceText(text: string): string {
  return text.replace(/[\r\n]+/g, ' ').replace(/[^\x20-\x7e]/g, '?');
}

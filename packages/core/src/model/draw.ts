/**
 * What a load keeps constant. A `string` is one of LEDs: nothing below its knee, above it by its slope; dimmed by
 * switching it.
 */
export const DRAWS = ['power', 'current', 'resistance', 'string'] as const;
export type Draw = (typeof DRAWS)[number];

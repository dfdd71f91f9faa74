/** [s] Seconds in an hour; energy is J inside and Wh at the faces, charge C inside and Ah at the faces. */
export const SECONDS_PER_HOUR = 3600;

/** [h] One month as used for self-discharge: 365.25 days / 12. Common practice, no source. */
export const HOURS_PER_MONTH = 730.5;

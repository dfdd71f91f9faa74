/** Share of its reading by which a hand-held volt meter of which nothing is said is taken to be off. Common practice, no source. */
export const METER = 0.008;

/**
 * What decides how much a charger gives: the one table. Solvers store its place in the list.
 */
interface LimitEntry {
  /** on the plot, short */
  word: string;
  /** ends the sentence “the charger …” */
  phrase: string;
}

const TABLE = {
  off: { word: 'off', phrase: 'is off' },
  current: { word: 'constant current', phrase: 'gives the current it is set to' },
  volts: { word: 'constant voltage', phrase: 'holds its volts' },
  headroom: { word: 'headroom', phrase: 'has too little above the pack' },
  ownInput: { word: 'input limit', phrase: 'is at the limit of its input' },
  source: { word: 'source limit', phrase: 'gets no more from the source' },
  inputVolts: { word: 'input held', phrase: 'keeps its input volts up' },
  heat: { word: 'too hot', phrase: 'folds back for its heat' },
  output: { word: 'output limit', phrase: 'is at the limit of its output' },
  lockOut: { word: 'locks out', phrase: 'is at the edge of its lock-out' },
  letsGo: { word: 'source lets go', phrase: 'asks more than the source gives, which lets go' },
  through: { word: 'uncontrolled', phrase: 'holds nothing back' },
  full: { word: 'above its volts', phrase: 'stands below the pack' },
  load: { word: 'load first', phrase: 'gets what the loads leave' },
  helps: { word: 'battery helps', phrase: 'waits while the battery helps the source' },
} as const satisfies Record<string, LimitEntry>;

export type ChargeLimit = keyof typeof TABLE;

/** What a limit is called and what it means. */
export const CHARGE_LIMITS: Readonly<Record<ChargeLimit, Readonly<LimitEntry>>> = TABLE;

/** The limits in their order; the index is what solvers store. */
export const LIMITS = Object.keys(TABLE) as readonly ChargeLimit[];

/** Index of each limit in LIMITS. */
export const LIMIT = Object.fromEntries(LIMITS.map((m, k) => [m, k])) as Readonly<
  Record<ChargeLimit, number>
>;

/**
 * Ways a stage can be working: the one table. A new mode is one line here; solvers store its place in the list.
 */
interface ModeEntry {
  /** on the drawing: short, with a glyph that needs no colour */
  word: string;
  glyph: string;
  /** ends the sentence “Lamp rail …” */
  phrase: string;
  /** “Lamp rail … there”: why what hangs on it gets too little or too much; absent where it does its work */
  cause?: string;
  /** colour of its band */
  tone: 'pine' | 'slate' | 'saffron' | 'grey' | 'madder';
  /** the output stands at the volts it is set to */
  holds?: true;
  /** no longer gives what it is set to, for want of power */
  givesUp?: true;
}

const TABLE = {
  unfed: { word: 'unfed', glyph: '○', phrase: 'gets nothing', tone: 'grey' },
  direct: { word: 'direct', glyph: '―', phrase: 'connects through', tone: 'slate' },
  regulating: { word: 'holds', glyph: '=', phrase: 'regulates', tone: 'pine', holds: true },
  buck: { word: 'buck', glyph: '↓', phrase: 'steps down', tone: 'slate', holds: true },
  boost: { word: 'boost', glyph: '↑', phrase: 'steps up', tone: 'pine', holds: true },
  both: { word: 'all four', glyph: '↕', phrase: 'switches all four', tone: 'saffron', holds: true },
  passThrough: {
    word: 'passes',
    glyph: '→',
    phrase: 'passes its input through',
    cause: 'passes its input through',
    tone: 'saffron',
  },
  dropout: {
    word: 'dropout',
    glyph: '⤓',
    phrase: 'is in dropout',
    cause: 'is at its maximum duty or out of headroom',
    tone: 'madder',
  },
  currentLimit: {
    word: 'limit',
    glyph: '⊣',
    phrase: 'limits its current',
    cause: 'is at its current limit',
    tone: 'madder',
    givesUp: true,
  },
  thermalLimit: {
    word: 'too hot',
    glyph: '♨',
    phrase: 'folds back for its heat',
    cause: 'folds back for its heat',
    tone: 'madder',
  },
  shutDown: { word: 'off', glyph: '–', phrase: 'is shut down with its loads', tone: 'grey' },
  lockedOut: {
    word: 'locked',
    glyph: '×',
    phrase: 'is locked out',
    cause: 'locks out for low input volts',
    tone: 'grey',
  },
  overInput: {
    word: 'over V',
    glyph: '×',
    phrase: 'is over its input maximum',
    cause: 'is above its highest input',
    tone: 'madder',
  },
  collapsed: {
    word: 'down',
    glyph: '×',
    phrase: 'has collapsed',
    cause: 'collapses under the load',
    tone: 'madder',
    givesUp: true,
  },
} as const satisfies Record<string, ModeEntry>;

export type Mode = keyof typeof TABLE;

/** What a mode is called and what it means. */
export const MODE_TABLE: Readonly<Record<Mode, Readonly<ModeEntry>>> = TABLE;

/** The modes in their order; the index is what solvers store. */
export const MODES = Object.keys(TABLE) as readonly Mode[];

/** Index of each mode in MODES. */
export const MODE = Object.fromEntries(MODES.map((m, k) => [m, k])) as Readonly<Record<Mode, number>>;

/** Indices of the modes that have a property. */
function indices(has: (entry: Readonly<ModeEntry>) => unknown): readonly boolean[] {
  return MODES.map((m) => Boolean(has(MODE_TABLE[m])));
}

/** By index: the output stands at its set volts. */
export const HOLDS = indices((e) => e.holds);
/** By index: no longer gives what it is set to, for want of power. */
export const GIVES_UP = indices((e) => e.givesUp);
/** By index: what hangs on it may get too little or too much because of it. */
export const FAILS = indices((e) => e.cause);

/** Whether a mode is trouble: its glyph is drawn as such. */
export function isTrouble(mode: Mode): boolean {
  return mode === 'unfed' || MODE_TABLE[mode].cause !== undefined;
}

import type { LawPoint } from '../stages/laws/law.ts';
import type { SourceLaw } from './sources/kind.ts';

/** What a charger is made of, as its limits need it. */
export interface Held {
  source: SourceLaw;
  /** [A] [W] its own, Infinity where it has none */
  output: number;
  inputLimit: number;
  mostHeat: number;
  /** [V] below which it locks out, and that its input is kept up to; 0 where it is not */
  minInput: number;
  inputVolts: number;
  /** whether its current is sensed at the input rather than at the output */
  senseInput: boolean;
  /** [V] at its output that it holds, Infinity where it holds nothing back */
  set: number;
  /** [V] [Ω] between that and the pack */
  behind: { volts: number; ohms: number };
}

/** What is asked of it. */
export interface Asked {
  /** [V] of the pack */
  volts: number;
  /** [A] it is set to */
  amps: number;
}

/** What would be so if it gave a current. */
export interface Trial extends Asked {
  vin: number;
  /** [V] that it could give at the most, less what it would have to */
  headroom: number;
  point: LawPoint;
  /** [A] that the source has left, and what loads take of it before the charger */
  left: number;
  loads: number;
}

/**
 * What decides how much a charger gives: the one table. A charger gives the most at which none of them is passed. A new one is a
 * row here: what it allows, as a current where that is known beforehand, else as the room left when a current flows; every
 * room falls as the current rises. Solvers store a row's place in the list.
 */
export interface LimitEntry {
  /** on the plot, short */
  word: string;
  /** ends the sentence “the charger …” */
  phrase: string;
  /** [A] at the output that it allows; undefined where a charger so made has nothing of it */
  most?(held: Held): ((asked: Asked) => number) | undefined;
  /** room left to it, in its own unit, negative beyond; undefined where a charger so made has nothing of it */
  room?(held: Held): ((trial: Trial) => number) | undefined;
  /** whether it also holds what goes past the control, straight through */
  past?: boolean;
}

const hasLeft = ({ source }: Held) => source.beyond !== 'soft';

const TABLE = {
  off: { word: 'off', phrase: 'is off' },
  current: {
    word: 'constant current',
    phrase: 'gives the current it is set to',
    most: ({ senseInput }) => (senseInput ? undefined : ({ amps }) => amps),
    room: ({ senseInput }) => (senseInput ? ({ amps, point }) => amps - point.inputAmps : undefined),
  },
  volts: {
    word: 'constant voltage',
    phrase: 'holds its volts',
    most: ({ set, behind }) =>
      set < Infinity ? ({ volts }) => (set - behind.volts - volts) / behind.ohms : undefined,
  },
  headroom: {
    word: 'headroom',
    phrase: 'has too little above the pack',
    room: () => (t) => t.headroom,
    past: true,
  },
  ownInput: {
    word: 'input limit',
    phrase: 'is at the limit of its input',
    room:
      ({ inputLimit }) =>
      ({ point }) =>
        Math.min(point.room, inputLimit - point.inputAmps),
  },
  source: {
    word: 'source limit',
    phrase: 'gets no more from the source',
    room: (held) => (hasLeft(held) ? ({ left, loads }) => (loads > 0 ? Infinity : left) : undefined),
    past: true,
  },
  inputVolts: {
    word: 'input held',
    phrase: 'keeps its input volts up',
    room: ({ inputVolts }) => (inputVolts > 0 ? ({ vin }) => vin - inputVolts : undefined),
  },
  heat: {
    word: 'too hot',
    phrase: 'folds back for its heat',
    room: ({ mostHeat }) => (mostHeat < Infinity ? ({ point }) => mostHeat - point.heat : undefined),
  },
  output: {
    word: 'output limit',
    phrase: 'is at the limit of its output',
    most: ({ output }) => (output < Infinity ? () => output : undefined),
  },
  lockOut: {
    word: 'locks out',
    phrase: 'is at the edge of its lock-out',
    room:
      ({ minInput }) =>
      ({ vin }) =>
        vin - minInput,
  },
  letsGo: { word: 'source lets go', phrase: 'asks more than the source gives, which lets go' },
  through: { word: 'uncontrolled', phrase: 'holds nothing back' },
  full: { word: 'above its volts', phrase: 'stands below the pack' },
  load: {
    word: 'load first',
    phrase: 'gets what the loads leave',
    room: (held) => (hasLeft(held) ? ({ left, loads }) => (loads > 0 ? left : Infinity) : undefined),
    past: true,
  },
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

/** One limit of a charger at work. */
export interface Limiting<Q> {
  limit: number;
  at(question: Q): number;
}

/** The limits a charger has: those known beforehand, and those that show when a current flows. */
export interface Limiter {
  most: readonly Limiting<Asked>[];
  rooms: readonly Limiting<Trial>[];
  /** the rooms of what goes past its control */
  past: readonly Limiting<Trial>[];
}

/** What of a table of limits holds a charger so made. @param rows the table, by their places in LIMITS */
export function limiterOf(
  held: Held,
  rows: readonly LimitEntry[] = LIMITS.map((l) => CHARGE_LIMITS[l]),
): Limiter {
  const found = {
    most: [] as Limiting<Asked>[],
    rooms: [] as Limiting<Trial>[],
    past: [] as Limiting<Trial>[],
  };
  rows.forEach((row, limit) => {
    const most = row.most?.(held);
    if (most) found.most.push({ limit, at: most });
    const room = row.room?.(held);
    if (!room) return;
    found.rooms.push({ limit, at: room });
    if (row.past) found.past.push({ limit, at: room });
  });
  return found;
}

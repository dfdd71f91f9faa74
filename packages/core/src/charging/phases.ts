import type { ChargeControl } from '../model/charging.ts';
import type { Setting } from './law.ts';
import { CHARGE_LIMITS, type ChargeLimit } from './limits.ts';

/** What of a charger at work may be waited for; solvers store the number. */
export const WATCHED = { nothing: 0, ready: 1, tapered: 2, again: 3 } as const;

/** From where on each of these has come. */
export interface Watched {
  /** [V] at its output from which on cells are no longer too empty for more than a gentle current */
  ready: number;
  /** [A] at its output below which it counts as tapered, while it holds its volts */
  tapered: number;
  /** whether that is the current into the battery rather than all of its output */
  ofBattery: boolean;
  /** [V] of the pack below which it begins anew */
  again: number;
}

/** What a phase may need to know of the pack and of what was before it. */
export interface PhaseAt {
  series: number;
  /** [V] of the pack below which a charge begins anew */
  again: number;
}

/** What a charger is set to for a while, what ends that, and what comes then. */
export interface PhaseRow {
  /** what is said of it while its set current flows; without it that is the limit's own word */
  word?: string;
  set(control: ChargeControl | undefined): Setting;
  /** from where on what it waits for has come */
  watches?(control: ChargeControl | undefined, at: PhaseAt): Partial<Watched>;
  /** what it waits for, [s] for how long without a break, and what follows: the end of a charge where one comes to an end there */
  waits?: {
    for: number;
    without?(control: ChargeControl | undefined): number;
    then: PhaseName;
    ends?: 'terminated';
  };
  /** [h] after which it has gone on for too long, and what that is called */
  late?: { after(control: ChargeControl | undefined): number | undefined; why: 'prechargeTimer' };
  /** whether the safety timer of a charge runs in it */
  charges?: boolean;
}

export type PhaseName = 'precharge' | 'fast' | 'done' | 'held' | 'noMains';

const OFF: Setting = { on: false, amps: 0 };

/**
 * The phases of a charge, by what the charger's control does. A new one is a row: what sets it, what it waits for, what
 * follows. Within an operating point none changes. Common practice, no source.
 */
export const PHASES: Readonly<Record<PhaseName, PhaseRow>> = {
  precharge: {
    word: 'precharge',
    set: (control) => ({ on: true, amps: control!.precharge!.current }),
    watches: (control, { series }) => ({ ready: control!.precharge!.below * series }),
    waits: { for: WATCHED.ready, then: 'fast' },
    late: { after: (control) => control?.precharge?.timer, why: 'prechargeTimer' },
    charges: true,
  },
  fast: {
    set: (control) => ({ on: true, amps: control?.current ?? Infinity }),
    watches: (control) => ({ tapered: control?.terminate ?? 0, ofBattery: control?.endsBy === 'battery' }),
    waits: {
      for: WATCHED.tapered,
      without: (control) => control?.deglitch ?? 0,
      then: 'done',
      ends: 'terminated',
    },
    charges: true,
  },
  done: {
    set: () => OFF,
    watches: (_, { again }) => ({ again }),
    waits: { for: WATCHED.again, then: 'fast' },
  },
  /** its thermistor lets it not begin */
  held: { set: () => OFF },
  noMains: { set: () => ({ ...OFF, mains: false }) },
};

/** The phase a charge begins with. */
export function firstPhase(control: ChargeControl | undefined): PhaseName {
  return control?.precharge ? 'precharge' : 'fast';
}

/** What decides in a stretch of a charge: a limit, or a phase that has a word of its own while its set current flows. */
export type Decides = ChargeLimit | PhaseName;

/** What decides, by the limit that acts and the phase that the charger is in. */
export function decides(limit: ChargeLimit, phase: PhaseName): Decides {
  return limit === 'current' && PHASES[phase].word ? phase : limit;
}

/** What that is called. */
export function phaseWord(of: Decides): string {
  return of in PHASES ? PHASES[of as PhaseName].word! : CHARGE_LIMITS[of as ChargeLimit].word;
}

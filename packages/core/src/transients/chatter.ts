import { gaussPanels } from '../numeric/quadrature.ts';

/** A converter of constant power behind a weak source, with its lock-out. SI units. */
export interface LockOut {
  /** [V] open, and [Ω] behind it */
  open: number;
  ohms: number;
  /** [W] it takes while it works */
  watts: number;
  /** [V] above which it starts, and below which it stops */
  on: number;
  off: number;
  /** [F] at its input */
  farads: number;
}

/** Whether it starts, stays, or starts and stops for ever. */
export interface Chatter {
  starts: boolean;
  oscillates: boolean;
  /** [V] at which it would stay; 0 where there is none */
  loaded: number;
  /** [W] most with which it stays */
  mostWatts: number;
  /** [s] off and on in turn, and [Hz]; NaN where it does not oscillate */
  offSeconds: number;
  onSeconds: number;
  hertz: number;
  /** [W] on the mean; NaN where it does not oscillate */
  meanWatts: number;
}

const PANELS = 40;

/**
 * On: C·dV/dt = (E − V)/R − P/V from the start volts to the stop volts; off: back up by e^(−t/RC).
 * Elementary.
 */
export function chatter({ open, ohms, watts, on, off, farads }: LockOut): Chatter {
  const square = open * open - 4 * watts * ohms;
  const loaded = square >= 0 ? (open + Math.sqrt(square)) / 2 : 0;
  const starts = open > on;
  const oscillates = starts && loaded < off;
  const mostWatts = (off * (open - off)) / ohms;
  if (!oscillates) {
    return {
      starts,
      oscillates,
      loaded,
      mostWatts,
      offSeconds: NaN,
      onSeconds: NaN,
      hertz: NaN,
      meanWatts: NaN,
    };
  }
  const offSeconds = ohms * farads * Math.log((open - off) / (open - on));
  const onSeconds = gaussPanels((v) => farads / (watts / v - (open - v) / ohms), off, on, PANELS);
  const period = offSeconds + onSeconds;
  return {
    ...{ starts, oscillates, loaded, mostWatts, offSeconds, onSeconds },
    hertz: 1 / period,
    meanWatts: (watts * onSeconds) / period,
  };
}

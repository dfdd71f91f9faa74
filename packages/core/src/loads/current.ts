import type { Load } from '../model/load.ts';

/** [A] at [V]: what a load draws. 0 at or below 0 V. */
export type LoadCurrent = (volts: number) => number;

/** The load's law of current over voltage: P/V, I or V/R. It holds at all volts above zero, in range or not. */
export function loadCurrent(load: Load): LoadCurrent {
  switch (load.draw) {
    case 'power': {
      const power = load.power!;
      return (v) => (v > 0 ? power / v : 0);
    }
    case 'current': {
      const current = load.current!;
      return (v) => (v > 0 ? current : 0);
    }
    case 'resistance': {
      const conductance = 1 / load.resistance!;
      return (v) => (v > 0 ? v * conductance : 0);
    }
  }
}

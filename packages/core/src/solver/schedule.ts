import type { Draw, Load } from '../model/load.ts';
import { cycleSeconds } from '../model/programme.ts';
import type { ThreadDocument } from '../model/thread.ts';

/** A stretch of a programme as numbers. */
export interface Stretch {
  /** index into the thread's modes */
  mode: number;
  /** factor on each load's draw */
  factors: Float64Array;
  /** [s] */
  seconds: number;
}

/** A programme as numbers. */
export interface Schedule {
  stretches: readonly Stretch[];
  /** [s] of all stretches together */
  period: number;
  repeats: boolean;
}

/** The programme of a thread; undefined where it states none: every load is then on. */
export function scheduleOf({ programme, modes = [], loads }: ThreadDocument): Schedule | undefined {
  if (!programme) return undefined;
  const factors = modes.map(({ id }) => modeFactors(loads, id));
  const stretches = programme.segments.map(({ mode, seconds }) => {
    const at = modes.findIndex((m) => m.id === mode);
    return { mode: at, factors: factors[at]!, seconds };
  });
  return { stretches, period: cycleSeconds(programme), repeats: programme.after === 'repeat' };
}

/** Factor on each load's draw in a mode: a resistance draws as its reciprocal. @param mode its id */
export function modeFactors(loads: readonly Load[], mode: string): Float64Array {
  return Float64Array.from(loads, (load) => {
    const own = load.draws?.find((d) => d.mode === mode);
    return own ? factorOf(load.draw, load[load.draw]!, own.value) : 1;
  });
}

function factorOf(draw: Draw, usual: number, value: number): number {
  if (value === 0) return 0;
  return draw === 'resistance' ? usual / value : value / usual;
}

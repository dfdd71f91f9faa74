import { DRAWS, type Draw } from './draw.ts';
import { Choice, Parts, Quantity, Text, Whole } from './fields.ts';

/** Most stretches a programme may have. */
export const MOST_SEGMENTS = 200;
/** Most modes a thread may have. */
export const MOST_MODES = 12;

/** A way in which the loads work together: sleep, measure, transmit. */
export class LoadMode {
  @Text(40, 'Identifier, unique among the modes', { pattern: /^[A-Za-z0-9_-]+$/ })
  id!: string;
  @Text(40, 'Name')
  name!: string;
}

/** What a load draws in one mode, in the unit of what it keeps constant, of a string the share of its time; 0 is off. */
export class ModeDraw {
  @Text(40, 'Id of the mode')
  mode!: string;
  @Quantity('', 0, 1e9, 'W, A or Ω in this mode, of a string the share of its time; 0 for off')
  value!: number;
  @Choice(DRAWS, 'What it keeps constant in this mode, where that is not what it keeps elsewhere', {
    optional: true,
  })
  draw?: Draw;
}

/** A stretch of the programme in one mode. */
export class Segment {
  @Text(40, 'Id of the mode')
  mode!: string;
  @Quantity('s', 1e-3, 1e8, 'How long it lasts', { label: 'Lasts' })
  seconds!: number;
}

/** What comes after the last stretch. */
export const AFTER = ['repeat', 'stay'] as const;

/** What the loads do over time: stretches one after the other, then again from the first, or the last one for good. */
export class Programme {
  @Parts(() => Segment, [1, MOST_SEGMENTS], 'Stretches, in their order')
  segments!: Segment[];
  @Choice(AFTER, 'After the last: from the first again, or stay in the last')
  after!: (typeof AFTER)[number];
  @Quantity('s', 0, 1e8, 'How far into its cycle the run starts: the time of day of a plan by clock', {
    optional: true,
    label: 'Starts at',
  })
  startsAt?: number;
  @Whole(1, 1e9, 'Cycles wanted', { optional: true })
  wanted?: number;
}

/** [s] of all stretches together. */
export function cycleSeconds({ segments }: Programme): number {
  return segments.reduce((sum, s) => sum + s.seconds, 0);
}

/** A stretch as it is run: from where the run starts, and which of the programme's it is part of. */
export interface TurnedSegment extends Segment {
  segment: number;
}

/** The stretches of a programme from where its run starts: one that is cut there comes in two parts, first and last. */
export function turned({ segments, startsAt = 0, after }: Programme): TurnedSegment[] {
  const all = segments.map((s, segment) => ({ ...s, segment }));
  let left = after === 'repeat' ? startsAt : 0;
  if (!(left > 0)) return all;
  for (let k = 0; k < all.length; k++) {
    const { seconds } = all[k]!;
    if (left < seconds) {
      const rest = { ...all[k]!, seconds: seconds - left };
      const begun = left > 0 ? [{ ...all[k]!, seconds: left }] : [];
      return [rest, ...all.slice(k + 1), ...all.slice(0, k), ...begun];
    }
    left -= seconds;
  }
  return all;
}

/** What people call a mode; its id where the thread does not name it. */
export function modeName({ modes = [] }: { modes?: readonly LoadMode[] }, id: string): string {
  return modes.find((m) => m.id === id)?.name ?? id;
}

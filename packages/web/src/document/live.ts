import { create } from 'zustand';

/** Something that is on, outside the machine, and what takes it off: the frame shows it whatever the view. */
export interface Live {
  /** “Electronic load on, 2.00 A” */
  words: string | undefined;
  /** what no line reaches any more and may still be on: only a person can switch it off, and say so */
  unreached: string | undefined;
  stop(): void;
  /** what could not be reached has been switched off by hand */
  seen(): void;
}

export const useLive = create<Live>(() => ({
  words: undefined,
  unreached: undefined,
  stop: () => undefined,
  seen: () => undefined,
}));

/** Whether anything is on, recorded, or out of reach. */
export function isLive({ words, unreached }: Live): boolean {
  return words !== undefined || unreached !== undefined;
}

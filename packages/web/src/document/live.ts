import { create } from 'zustand';

/** Something that is on, outside the machine, and what takes it off: the frame shows it whatever the view. */
export interface Live {
  /** “Electronic load on, 2.00 A” */
  words: string | undefined;
  stop(): void;
}

export const useLive = create<Live>(() => ({ words: undefined, stop: () => undefined }));

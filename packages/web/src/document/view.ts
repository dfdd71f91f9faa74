import { create } from 'zustand';

interface NeedleState {
  /** [s] where the needle stands */
  time: number;
  /** [s] right end of the plot */
  end: number;
  setEnd(end: number): void;
  moveTo(time: number): void;
}

function needle() {
  return create<NeedleState>()((set) => ({
    time: 0,
    end: 1,
    setEnd: (end) => set((s) => ({ end, time: Math.min(s.time, end) })),
    moveTo: (time) => set((s) => ({ time: Math.max(0, Math.min(time, s.end)) })),
  }));
}

/** A needle on an axis of time. Apart from the document: moving it changes nothing that is kept, and redraws only who watches it. */
export type Needle = ReturnType<typeof needle>;

/** The needle of the run-down. */
export const useNeedle = needle();

/** The needle of the timeline of mains. */
export const useOutageNeedle = needle();

/** The needle of the charge. */
export const useChargeNeedle = needle();

/** Share of the plot one arrow key moves; ten times that with Shift. */
export const KEY_STEP = 1 / 200;

interface SelectionState {
  /** `pack`, `protection`, or the id of a stage or load */
  selected: string | undefined;
  select(id: string | undefined): void;
}

/** What the inspector shows. Like the needle it is no part of the document. */
export const useSelection = create<SelectionState>()((set) => ({
  selected: undefined,
  select: (selected) => set({ selected }),
}));

let seen: string | undefined;

/** Another thread is opened: what stood at a time or a part of the last one says nothing there. */
export function beginThread(id: string): void {
  if (id === seen) return;
  seen = id;
  for (const needle of [useNeedle, useOutageNeedle, useChargeNeedle]) needle.setState({ time: 0, end: 1 });
  useSelection.setState({ selected: undefined });
}

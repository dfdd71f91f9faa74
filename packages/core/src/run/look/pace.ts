import type { Stop } from '../march/march.ts';

/** What carries the cells from one change to the next: the march, or a look over years. */
export interface Pace {
  /** Go on until something stops it. @param edge [s] not passed */
  until(edge: number): Stop;
  /** The cells stay as they are until then [s]. */
  stand(until: number): void;
  /** Begin anew at the present instant, which the path is read at. @param jumped whether the current did */
  enter(jumped: boolean): void;
  /** Go on from where `until` stopped, with what has been switched since. */
  resume(): void;
  /** No way on was found, however short: go on by the present current. */
  creep(): void;
  /** The run has ended: what is still to be booked is. */
  close?(): void;
}

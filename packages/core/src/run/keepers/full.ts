import type { Events } from '../march/events.ts';
import type { PackWatch } from '../march/watch.ts';
import type { ChargeEnd } from '../account/chargeResult.ts';
import type { Keeper } from './keeper.ts';
import type { Plant } from '../../plant/compile.ts';
import type { DeadReason } from '../account/result.ts';
import type { CellState } from '../step/state.ts';

/** Share above full volts that is still full: a charger's own tolerance. Common practice, no source. */
const ABOVE_FULL = 0.005;

/** The cells hold more than their record knows. */
const OVER: PackWatch = { of: () => (p) => p.soc > 1 };
/** The board opens on high volts. */
const OPENS: PackWatch = {
  highest: true,
  of: ({ pack: { over } }) => (over < Infinity ? (p) => p.highest > over : undefined),
};

/** Ends a charge where the cells hold all that their record knows, or their board opens on high volts. */
export class Fullness implements Keeper {
  readonly watches = [OVER, OPENS];
  /** why the charge has ended */
  why: ChargeEnd | undefined;

  /** @param now what is watched of the pack, at the present instant */
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly now: Pick<Events, 'has'>,
  ) {}

  ended(): DeadReason | undefined {
    const { now } = this;
    if (now.has(OVER)) this.why = this.withinFull() ? 'recordFull' : 'overCharged';
    else if (now.has(OPENS)) this.why = 'overVoltage';
    return this.why && 'charged';
  }

  wouldSwitch(now: Pick<Events, 'has'>): boolean {
    return this.watches.some((w) => now.has(w));
  }

  /** Whether the cells stand within their full volts, held there by a control. */
  private withinFull(): boolean {
    const { plant, state } = this;
    const { cell } = plant.doc.pack;
    const { set, through } = plant.charger!.held;
    const most = cell.fullVolts * (1 + ABOVE_FULL);
    return set / plant.pack.series <= most && through <= most * plant.pack.series && state.volts > 0;
  }
}

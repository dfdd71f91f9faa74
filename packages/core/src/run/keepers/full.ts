import { PACK_EVENT, type Events } from '../march/events.ts';
import type { ChargeEnd } from '../account/chargeResult.ts';
import type { Keeper } from './keeper.ts';
import type { Plant } from '../../plant/compile.ts';
import type { DeadReason } from '../account/result.ts';
import type { CellState } from '../step/state.ts';

/** Share above full volts that is still full: a charger's own tolerance. Common practice, no source. */
const ABOVE_FULL = 0.005;

/** Ends a charge where the cells hold all that their record knows, or their board opens on high volts. */
export class Fullness implements Keeper {
  /** why the charge has ended */
  why: ChargeEnd | undefined;

  /** @param now what the pack itself does at the present instant */
  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly now: Events,
  ) {}

  ended(): DeadReason | undefined {
    const { pack } = this.now;
    if (pack & PACK_EVENT.over) this.why = this.withinFull() ? 'recordFull' : 'overCharged';
    else if (pack & PACK_EVENT.opens) this.why = 'overVoltage';
    return this.why && 'charged';
  }

  wouldSwitch(events: number): boolean {
    return (events & (PACK_EVENT.over | PACK_EVENT.opens)) !== 0;
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

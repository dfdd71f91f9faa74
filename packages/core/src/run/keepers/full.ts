import type { Events } from '../march/events.ts';
import type { PackWatch } from '../march/watch.ts';
import type { ChargeEnd } from '../account/chargeResult.ts';
import type { Keeper } from './keeper.ts';
import type { DeadReason } from '../account/result.ts';
import { pastFullAt } from '../step/state.ts';

/** [V] of one cell at rest above its full volts at which a charge is broken off: it goes on to where cells may catch fire. Common practice, no source. */
const FAR_OVER = 0.1;

/** The cells rest far above their full volts. */
const OVER: PackWatch = {
  of: ({ pack, doc }) => {
    const soc = pastFullAt(pack, doc.pack.cell.fullVolts + FAR_OVER);
    return (p) => p.soc > soc;
  },
};
/** The board opens on high volts. */
const OPENS: PackWatch = {
  highest: true,
  of: ({ pack: { over } }) => (over < Infinity ? (p) => p.highest > over : undefined),
};

/** Ends whatever it is in where the cells rest far above full. */
export class OverCharge implements Keeper {
  readonly watches = [OVER];

  /** @param now what is watched of the pack, at the present instant */
  constructor(private readonly now: Pick<Events, 'has'>) {}

  ended(): DeadReason | undefined {
    return this.now.has(OVER) ? 'charged' : undefined;
  }

  wouldSwitch(now: Pick<Events, 'has'>): boolean {
    return now.has(OVER);
  }
}

/** Ends a charge where the cells rest far above full, or their board opens on high volts. */
export class Fullness implements Keeper {
  readonly watches = [OVER, OPENS];
  /** why the charge has ended */
  why: ChargeEnd | undefined;

  /** @param now what is watched of the pack, at the present instant */
  constructor(private readonly now: Pick<Events, 'has'>) {}

  ended(): DeadReason | undefined {
    const { now } = this;
    if (now.has(OVER)) this.why = 'overCharged';
    else if (now.has(OPENS)) this.why = 'overVoltage';
    return this.why && 'charged';
  }

  wouldSwitch(now: Pick<Events, 'has'>): boolean {
    return this.watches.some((w) => now.has(w));
  }
}

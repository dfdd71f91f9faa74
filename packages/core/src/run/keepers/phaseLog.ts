import { LIMITS } from '../../charging/limits.ts';
import { decides, type PhaseName } from '../../charging/phases.ts';
import { limitIn } from '../../plant/chargerLayout.ts';
import type { Plant } from '../../plant/compile.ts';
import type { ChargePhase } from '../account/chargeResult.ts';
import type { Keeper } from './keeper.ts';
import { type LedgerSum } from '../account/ledger.ts';
import { CHARGE } from '../account/account.ts';
import type { CellState } from '../step/state.ts';

/** Phases kept: loads that switch all the time would make thousands. */
const MOST_PHASES = 64;

/** Notes from when on what decides how much flows, and what each such stretch took. */
export class PhaseLog implements Keeper {
  readonly phases: ChargePhase[] = [];
  private open: { limit: ChargePhase['limit']; from: number; fromSoc: number; at: Energies } | undefined;

  constructor(
    private readonly plant: Plant,
    private readonly state: CellState,
    private readonly ledger: LedgerSum,
    private readonly charger: { phase: PhaseName },
  ) {}

  /** Note the present instant, which the path is read at. */
  enter(): void {
    const { path } = this.plant;
    if (this.phases.length >= MOST_PHASES) return;
    const limit = LIMITS[limitIn(path.signature, path.stages.length, path.loads.length)]!;
    const named = decides(limit, this.charger.phase);
    if (this.open?.limit === named) return;
    this.close();
    const { time, soc } = this.state;
    this.open = { limit: named, from: time, fromSoc: soc, at: this.energies() };
  }

  /** The last one ends here. */
  close(): void {
    const { open, state } = this;
    if (!open) return;
    this.open = undefined;
    if (!(state.time > open.from)) return;
    const now = this.energies();
    this.phases.push({
      limit: open.limit,
      from: open.from,
      to: state.time,
      fromSoc: open.fromSoc,
      toSoc: state.soc,
      supplied: now.supplied - open.at.supplied,
      kept: now.kept - open.at.kept,
      cellHeat: now.cellHeat - open.at.cellHeat,
      chargerHeat: now.chargerHeat - open.at.chargerHeat,
    });
  }

  private energies(): Energies {
    const { supplied = 0, left, entries } = this.ledger.close();
    const heat = (element: string) =>
      entries.reduce(
        (s, e) => s + (e.element === element && e.mechanism !== 'self-discharge' ? e.joules : 0),
        0,
      );
    return { supplied, kept: left, cellHeat: heat('cells'), chargerHeat: heat(CHARGE.charger) };
  }
}

/** [J] up to an instant. */
interface Energies {
  supplied: number;
  kept: number;
  cellHeat: number;
  chargerHeat: number;
}

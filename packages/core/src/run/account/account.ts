import { CHARGE_COLUMN, chargerAt } from '../../plant/chargerLayout.ts';
import type { Plant } from '../../plant/compile.ts';
import { lossAt, STAGE_COLUMN, stageAt } from '../../plant/layout.ts';
import { MECHANISMS } from '../../stages/point.ts';
import { wattsOf } from './pathSums.ts';

/** What took energy in a run: an element (`cells`, `protection`, a stage's or load's id) by one mechanism. */
export interface LedgerEntry {
  element: string;
  /**
   * `delivered` for loads; `resistance`, `fast branch`, `slow branch`, `self-discharge`, `between cells`, `own draw` or a stage's
   * mechanism
   */
  mechanism: string;
  /** [J] */
  joules: number;
}

/** Where the energy went up to an instant. Every term is computed on its own, none as the remainder. */
export interface Ledger {
  /** [J] in the cells at the start: integral of the OCV over the charge held */
  stored: number;
  /** [J] integral of the OCV over the charge that remains */
  left: number;
  /** [J] put into the branches' capacitances: ∫ v·(i − v/R) dt */
  polarisation: number;
  /** [J] that the cells came to hold more as they warmed, less as they cooled; of cells that warm themselves */
  warmed?: number;
  /** [J] from the wall or from an ideal source, while the pack is charged */
  supplied?: number;
  /** [C] out of the charger meanwhile */
  charged?: number;
  /** [J] to loads while in their range; part of their `delivered` */
  usable: number;
  entries: LedgerEntry[];
  /** [J] into each stage, by its id */
  intake: Record<string, number>;
  /** |stored − everything else| / stored */
  closure: number;
}

/** Elements on the way from the source to the pack; no stage or load can have such an id. */
export const CHARGE = {
  source: 'charge:source',
  cable: 'charge:cable',
  charger: 'charge:charger',
  diode: 'charge:diode',
  path: 'charge:path',
} as const;

const ASTRAY = [
  [CHARGE.source, 'conversion', CHARGE_COLUMN.wallLoss],
  [CHARGE.source, 'resistance', CHARGE_COLUMN.droopLoss],
  [CHARGE.cable, 'resistance', CHARGE_COLUMN.cableLoss],
  [CHARGE.diode, 'rectifier', CHARGE_COLUMN.diodeLoss],
  [CHARGE.path, 'resistance', CHARGE_COLUMN.pathLoss],
] as const;

/** What is summed of the cells behind the heat of each resistance: the places from the first on. */
export const REST = {
  polarisation: 0,
  ownDraw: 1,
  selfDischarge: 2,
  warmed: 3,
  between: 4,
  bled: 5,
} as const;
/** How many that are. */
export const RESTS = Object.keys(REST).length;

/** What has been summed up to an instant. [J] */
export interface Summed {
  /** in the cells at the start, and now */
  stored: number;
  left: number;
  /** heat of R0 and of each branch, then of each series element, then the rest */
  sum: Float64Array;
  /** integrals of the path's columns, and the part of what is delivered in range */
  columns: Float64Array;
  usable: number;
}

/** Where it went: every term by the element it belongs to. */
export function accountOf(plant: Plant, { stored, left, sum, columns, usable }: Summed): Ledger {
  const { pack, path, charger } = plant;
  const entries: LedgerEntry[] = [];
  const put = (element: string, mechanism: string, joules: number) => {
    if (joules !== 0) entries.push({ element, mechanism, joules });
  };
  const elements = 1 + pack.cell.branches;
  const rest = elements + pack.elements.length;
  path.loads.forEach((load, l) => put(load.id, 'delivered', columns[wattsOf(path, l)]!));
  put('cells', 'resistance', sum[0]!);
  for (let k = 0; k < pack.cell.branches; k++) {
    put('cells', k === 0 ? 'fast branch' : 'slow branch', sum[k + 1]!);
  }
  put('cells', 'self-discharge', sum[rest + REST.selfDischarge]!);
  put('cells', 'between cells', sum[rest + REST.between]!);
  pack.elements.forEach((e, k) => put(e.id, 'resistance', sum[elements + k]!));
  put('protection', 'balance', sum[rest + REST.bled]!);
  for (const { element, share } of pack.alwaysOn) put(element, 'own draw', share * sum[rest + REST.ownDraw]!);
  path.stages.forEach((stage, k) =>
    MECHANISMS.forEach((name, m) =>
      put(stage.id, name, columns[lossAt(path.stages.length, path.loads.length, k) + m]!),
    ),
  );
  const at = chargerAt(path.stages.length, path.loads.length);
  const charged = (column: number) => (charger ? columns[at + column]! : 0);
  if (charger) {
    for (const [element, mechanism, column] of ASTRAY) put(element, mechanism, charged(column));
    MECHANISMS.forEach((name, m) => put(CHARGE.charger, name, charged(CHARGE_COLUMN.losses + m)));
  }
  const supplied = charged(CHARGE_COLUMN.supplied);
  const polarisation = sum[rest + REST.polarisation]!;
  const spent = entries.reduce((total, e) => total + e.joules, 0) + polarisation + left;
  const warmed = sum[rest + REST.warmed]!;
  const given = stored + supplied;
  const closure = given > 0 ? Math.abs(given + warmed - spent) / given : 0;
  const intake = Object.fromEntries(
    path.stages.map((s, k) => [s.id, columns[stageAt(k) + STAGE_COLUMN.inputWatts]!]),
  );
  const warm = pack.warmth ? { warmed } : {};
  const fed = charger ? { supplied, charged: charged(CHARGE_COLUMN.outAmps) } : {};
  return { stored, left, polarisation, usable, entries, intake, closure, ...warm, ...fed };
}

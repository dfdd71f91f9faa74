import type { Charging } from '../model/charging.ts';
import { PACK, surroundingsOf, type ThreadDocument } from '../model/thread.ts';
import type { Allowance } from '../numeric/allowance.ts';
import { Network } from '../plant/network.ts';
import { scheduleOf } from '../run/timeline/schedule.ts';
import { drawsIn, type Draws } from '../loads/draws.ts';

/** [W] a rail is asked for, and for how much of the time. */
export interface AskedFor {
  /** [W] */
  watts: number;
  /** 0 for what comes when everything is switched on alone */
  share: number;
}

/** What all instants of it may cost. */
const EFFORT = 50_000;

/**
 * What the rail on which source and battery meet is asked for over the programme, peaks and the stages that hang on it
 * included.
 * @param volts [V] it stands at
 */
export function askedOf(
  doc: ThreadDocument,
  { join }: Pick<Charging, 'join'>,
  volts: number,
  allowance: Allowance,
): AskedFor[] {
  const at = join?.at ?? PACK;
  const rail = at === PACK ? 0 : 1 + doc.stages.findIndex((s) => s.id === at);
  const network = new Network(doc.stages, doc.loads, surroundingsOf(doc).air);
  network.effort.allow(allowance.most(EFFORT));
  const known = new Map<string, number>();
  const watts = (draws: Draws) => {
    let found = known.get(draws.name);
    if (found === undefined) {
      network.setDraws(draws);
      known.set(draws.name, (found = volts * Math.max(0, network.demand(rail, volts))));
    }
    return found;
  };
  const asked = overProgramme(doc, watts);
  allowance.take(network.effort.work);
  return asked;
}

function overProgramme(doc: ThreadDocument, watts: (draws: Draws) => number): AskedFor[] {
  const schedule = scheduleOf(doc);
  if (!schedule) return [{ watts: watts(drawsIn(doc.loads)), share: 1 }];
  const { stretches, first, period } = schedule;
  return [
    ...stretches.map((s) => ({ watts: watts(s.draws), share: s.seconds / period })),
    ...first.map((s) => ({ watts: watts(s.draws), share: 0 })),
  ];
}

/** [W] most of it. */
export function mostOf(asked: readonly AskedFor[]): number {
  return Math.max(0, ...asked.map((a) => a.watts));
}

/** [W] mean of it. */
export function meanWatts(asked: readonly AskedFor[]): number {
  return asked.reduce((sum, { watts, share }) => sum + watts * share, 0);
}

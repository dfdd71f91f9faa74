import type { ThreadDocument } from '../model/thread.ts';
import { LIMIT } from '../charging/limits.ts';
import { CHARGE_COLUMN, chargerAt, limitIn } from '../plant/chargerLayout.ts';
import { type Plant } from '../plant/compile.ts';
import { compileCharging } from '../plant/compileCharging.ts';
import { CHARGE_LIMIT, ChargeRun } from './charge.ts';
import { endsFull } from './account/chargeResult.ts';
import { CHARGE } from './account/account.ts';
import { Recorder } from './account/recorder.ts';

/** [s] between two looks at what the others take. */
const LOOK = 60;
/** [A] share of what one is set to by which what the others take must have changed to count. */
const CHANGED = 2e-3;
/** Looks at the first instant until all agree. */
const AGREE = 12;

/** What came of one of several chargers on a source. */
export interface Station {
  /** [s] when it is full; absent where it never is */
  time?: number;
  /** [A] it gives at the first instant */
  amps: number;
}

/** Several chargers on one source. */
export interface Together {
  stations: Station[];
  /** [A] that all of them ask of the source where each is alone on it, and that it gives */
  asked: number;
  limit: number;
  /** whether the source lets go of all of them: nobody is charged from then on */
  letsGo: boolean;
  /** [V] left at the source's terminals at the first instant, and at the lowest; [A] most from it */
  volts: number;
  lowest: number;
  most: number;
  /** [J] from the source, and turned to heat in the chargers */
  supplied: number;
  heat: number;
}

/**
 * Several packs alike, each with its charger, on one source: its volts droop by what all of them take, so that the fullest waits
 * for the others. Each is charged by itself between two looks at what the others take; where they want more than it gives, those
 * that it holds back get alike.
 * @param from state of charge of each at the start
 */
export function chargeTogether(doc: ThreadDocument, from: readonly number[]): Together {
  const plants = from.map((soc) =>
    compileCharging({ ...doc, charging: { ...doc.charging!, from: soc } }, { startSoc: soc }),
  );
  const runs = plants.map((p) => new ChargeRun(p, {}, new Recorder(p, 0), undefined));
  const stations: Station[] = runs.map(() => ({ amps: 0 }));
  const over = runs.map((run) => run.start() !== undefined);
  const { source } = plants[0]!.charger!.law;
  const { limit, beyond } = source;
  const asked = plants.reduce((sum, p) => sum + ofCharger(p, CHARGE_COLUMN.sourceAmps), 0);
  const taken = new Float64Array(runs.length);
  const told = new Float64Array(runs.length);
  const small = CHANGED * plants[0]!.charger!.amps;
  const volts = () => source.volts(taken.reduce((a, b) => a + b, 0));
  /** Look at what each takes, and tell it what the others do. @returns whether any was told anything new */
  const agree = (least: number): boolean => {
    let any = false;
    const wants = runs.map((_, k) => {
      taken[k] = over[k] ? 0 : ofCharger(plants[k]!, CHARGE_COLUMN.sourceAmps);
      return !over[k] && isHeldBySource(plants[k]!) ? Infinity : taken[k];
    });
    const shares = shared(limit, wants);
    const sum = shares.reduce((a, b) => a + b, 0);
    runs.forEach((run, k) => {
      // Where all is given, one that wants more than its share gets just that.
      const others = shares[k]! < wants[k]! ? limit - shares[k]! : sum - shares[k]!;
      if (over[k] || Math.abs(others - told[k]!) <= least) return;
      told[k] = others;
      run.share(others);
      taken[k] = ofCharger(plants[k]!, CHARGE_COLUMN.sourceAmps);
      any = true;
    });
    return any;
  };
  /** One that is asked for too much lets go of all of them, again and again. */
  const letsGo = () => beyond === 'hiccup' && plants.some((p, k) => !over[k] && isHeldBySource(p));
  for (let n = 0; n < AGREE && agree(1e-9); n++);
  let gone = letsGo();
  plants.forEach((p, k) => (stations[k]!.amps = gone ? 0 : ofCharger(p, CHARGE_COLUMN.outAmps)));
  const first = volts();
  let lowest = first;
  let most = taken.reduce((a, b) => a + b, 0);
  for (let time = LOOK; !gone && time <= CHARGE_LIMIT && over.some((o) => !o); time += LOOK) {
    runs.forEach((run, k) => {
      if (over[k]) return;
      const why = run.advance(time);
      if (!why) return;
      over[k] = true;
      if (endsFull(why)) stations[k]!.time = run.time;
    });
    agree(small);
    gone = letsGo();
    lowest = Math.min(lowest, volts());
    most = Math.max(
      most,
      taken.reduce((a, b) => a + b, 0),
    );
  }
  const accounts = runs.map((run) => run.account);
  return {
    stations,
    asked,
    limit,
    letsGo: gone,
    volts: first,
    lowest,
    most,
    supplied: accounts.reduce((s, a) => s + (a.supplied ?? 0), 0),
    heat: accounts.reduce(
      (s, a) => s + a.entries.reduce((h, e) => h + (e.element === CHARGE.charger ? e.joules : 0), 0),
      0,
    ),
  };
}

/** Whether it is the source that keeps a charger from more. */
function isHeldBySource({ path }: Plant): boolean {
  const at = limitIn(path.signature, path.stages.length, path.loads.length);
  return at === LIMIT.source || at === LIMIT.letsGo;
}

/** What each gets of so much: no more than it wants, and alike of what is left. @param wants Infinity for all it can get */
function shared(limit: number, wants: readonly number[]): number[] {
  const got = wants.map(() => 0);
  const order = wants.map((_, k) => k).sort((a, b) => (wants[a]! < wants[b]! ? -1 : 1));
  let left = limit;
  order.forEach((k, n) => {
    got[k] = Math.min(wants[k]!, left / (order.length - n));
    left -= got[k];
  });
  return got;
}

/** A number of the charger where its path was read last: every row and every instant taken up reads it. */
function ofCharger({ path }: Plant, column: number): number {
  return path.columns[chargerAt(path.stages.length, path.loads.length) + column]!;
}

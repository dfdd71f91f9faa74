import { standing, truthOf, type Truth } from '@mile-thread/core/bench';
import { charge, setVolts, sourceLaw, sourceVolts } from '@mile-thread/core/charging';
import type { Load, ThreadDocument } from '@mile-thread/core/model';
import { Reading, ROW, simulate, type RunResult } from '@mile-thread/core/solve';

/** Where a lead touches: the pack's poles, one group, a rail, the plug of the source, the charger's output. */
export type Place = 'pack' | 'cell' | 'source' | 'charger' | `rail:${string}`;

/** Volts and current at a place. [V] [A] */
export interface AtPlace {
  volts: number;
  amps: number;
}

/** Rows of a run or charge. */
const ROWS = 400;
/** [A] Current below which an electronic load takes nothing. */
const LEAST = 1e-6;
/** Volts at which a load of constant current lets go by itself. */
const ANY = { min: 0, max: 1000 };

/** What is set on the bench. */
interface Setting {
  /** the thread's own loads: off, by its programme, or held in a mode */
  loads: 'off' | 'on' | (string & {});
  /** electronic load [A], and where */
  draws: { at: Place; amps: number } | undefined;
  /** [V] of a supply in the place of the pack */
  supply: number | undefined;
  charging: boolean;
}

/** How everything goes from the last change on: by time [s] since. */
interface Course {
  at(seconds: number, place: Place): AtPlace;
  /** state of charge */
  soc(seconds: number): number;
}

/**
 * A hidden true version of a thread on the bench: what its places carry as time goes by, by the very run-downs and charges of the
 * planner. When something is changed the cells begin rested at the charge they have come to: what had not yet settled is left out.
 */
export class World {
  truth: Truth;
  private setting: Setting = { loads: 'off', draws: undefined, supply: undefined, charging: false };
  private soc: number;
  private since = 0;
  private course: Course | undefined;

  /**
   * @param doc the thread as it is planned @param seed of its truth @param faulty whether a set point is off besides
   * @param now [s] of the bench's clock
   */
  constructor(
    private readonly doc: ThreadDocument,
    seed: number,
    faulty: boolean,
    private readonly now: () => number,
  ) {
    this.truth = truthOf(doc, seed, faulty);
    this.soc = doc.pack.startSoc;
    this.since = now();
  }

  /** Change what is set; the cells go on from where they are. */
  set(change: Partial<Setting>): void {
    const next = { ...this.setting, ...change };
    const same = (Object.keys(next) as (keyof Setting)[]).every(
      (k) => JSON.stringify(next[k]) === JSON.stringify(this.setting[k]),
    );
    if (same) return;
    this.settle();
    this.setting = next;
  }

  /** The pack charged, and rested. @param soc as the thread begins where not said */
  fill(soc = this.doc.pack.startSoc): void {
    this.settle();
    this.soc = soc;
  }

  /** Turn a stage's set point. @returns whether there is such a stage */
  trim(id: string, volts: number): boolean {
    const { doc } = this.truth;
    if (!doc.stages.some((s) => s.id === id && 'outputVolts' in s)) return false;
    this.settle();
    const stages = doc.stages.map((s) => (s.id === id ? ({ ...s, outputVolts: volts } as typeof s) : s));
    this.truth = { ...this.truth, doc: { ...doc, stages } };
    return true;
  }

  /** What a place carries now. */
  at(place: Place): AtPlace {
    this.course ??= this.begin();
    return this.course.at(this.now() - this.since, place);
  }

  /** [s] when something was changed last. */
  get changed(): number {
    return this.since;
  }

  /** [s] of the bench's clock. */
  seconds(): number {
    return this.now();
  }

  /** Own names of the thread's modes and rails, for what may be asked. */
  knows(place: string): place is Place {
    if (place === 'pack' || place === 'cell') return true;
    if (place === 'source' || place === 'charger') return this.doc.charging !== undefined;
    return place.startsWith('rail:') && this.doc.stages.some((s) => `rail:${s.id}` === place);
  }

  hasMode(mode: string): boolean {
    return this.doc.modes?.some((m) => m.id === mode) ?? false;
  }

  private settle(): void {
    if (this.course) this.soc = Math.min(1, Math.max(0.0005, this.course.soc(this.now() - this.since)));
    this.since = this.now();
    this.course = undefined;
  }

  private begin(): Course {
    const { setting, soc } = this;
    if (setting.charging && this.doc.charging) return this.charged();
    const doc = this.drawing();
    const { conditions } = this.truth;
    const held = setting.loads !== 'off' && setting.loads !== 'on' ? { mode: setting.loads } : {};
    const under = { ...conditions, ...held, startSoc: soc };
    if (setting.supply !== undefined || doc.loads.length === 0) return this.still(doc, under);
    return this.running(doc, simulate(doc, { rows: ROWS }, under));
  }

  /** The true thread with the loads that are on now. */
  private drawing(): ThreadDocument {
    const { doc } = this.truth;
    const { loads, draws } = this.setting;
    const own = loads === 'off' ? [] : doc.loads;
    const at = draws && draws.amps > LEAST && draws.at !== 'source' ? draws.at : undefined;
    const extra: Load[] = at
      ? [
          {
            id: 'electronic-load',
            name: 'Electronic load',
            from: at.startsWith('rail:') ? at.slice(5) : 'pack',
            draw: 'current',
            current: draws!.amps,
            range: ANY,
            essential: own.length === 0,
            grade: 'measured',
          },
        ]
      : [];
    const { modes, programme, ...rest } = doc;
    // A programme goes with the thread's own loads.
    const plan = loads === 'off' ? {} : { ...(modes ? { modes } : {}), ...(programme ? { programme } : {}) };
    return { ...rest, ...plan, loads: [...own, ...extra] };
  }

  private still(doc: ThreadDocument, conditions: Truth['conditions']): Course {
    const { soc } = this;
    const found = standing(doc, conditions, this.setting.supply);
    const { series } = this.doc.pack;
    return {
      soc: () => soc,
      at: (_, place) => {
        if (place === 'source' || place === 'charger') return this.beside(place);
        if (place === 'cell') return { volts: found.packVolts / series, amps: found.packAmps };
        if (place === 'pack') return { volts: found.packVolts, amps: found.packAmps };
        return { volts: found.rails[place.slice(5)] ?? 0, amps: this.setting.draws?.amps ?? 0 };
      },
    };
  }

  private running(doc: ThreadDocument, run: RunResult): Course {
    const reading = new Reading(run.series, run.deadEnd.time);
    const { series } = this.doc.pack;
    const columns = new Map(doc.stages.map((s, k) => [`rail:${s.id}`, k]));
    const row = (seconds: number) => {
      let [low, high] = [0, reading.count - 1];
      while (low < high) {
        const middle = (low + high + 1) >> 1;
        if (reading.time(middle) <= seconds) low = middle;
        else high = middle - 1;
      }
      return low;
    };
    const value = (seconds: number, column: number) => {
      const k = row(seconds);
      if (k + 1 >= reading.count) return reading.at(k, column);
      const [from, to] = [reading.time(k), reading.time(k + 1)];
      const f = to > from ? Math.min(1, (seconds - from) / (to - from)) : 1;
      return reading.at(k, column) + f * (reading.at(k + 1, column) - reading.at(k, column));
    };
    const open = this.truth.doc.pack.protection !== undefined;
    return {
      soc: (seconds) => value(Math.min(seconds, run.deadEnd.time), ROW.soc),
      at: (seconds, place) => {
        if (place === 'source' || place === 'charger') return this.beside(place);
        // A board that has opened leaves nothing behind it.
        const gone = seconds >= run.deadEnd.time;
        if (place === 'cell') return { volts: value(seconds, ROW.restVolts), amps: 0 };
        if (place === 'pack') {
          if (gone) return { volts: open ? 0 : value(seconds, ROW.restVolts) * series, amps: 0 };
          return { volts: value(seconds, ROW.packVolts), amps: value(seconds, ROW.packAmps) };
        }
        if (gone) return { volts: 0, amps: 0 };
        const k = columns.get(place)!;
        return {
          volts: value(seconds, reading.stage(k, 'outputVolts')),
          amps: value(seconds, reading.stage(k, 'outputAmps')),
        };
      },
    };
  }

  private charged(): Course {
    const { doc, conditions } = this.truth;
    const { soc } = this;
    const charging = { ...doc.charging!, from: Math.min(0.999, soc) };
    const result = charge({ ...doc, charging }, undefined, conditions);
    const reading = new Reading(result.series);
    const at = (seconds: number) => reading.rowAt(Math.min(seconds, result.end.time));
    return {
      soc: (seconds) => reading.at(at(seconds), 'soc'),
      at: (seconds, place) => {
        const k = at(seconds);
        const done = seconds > result.end.time;
        if (place === 'source')
          return { volts: reading.of(k, 'sourceVolts'), amps: done ? 0 : reading.of(k, 'sourceAmps') };
        if (place === 'charger')
          return { volts: reading.of(k, 'outVolts'), amps: done ? 0 : reading.of(k, 'outAmps') };
        const volts = reading.at(k, 'packVolts');
        if (place === 'cell') return { volts: reading.at(k, 'cellVolts'), amps: 0 };
        return { volts, amps: done ? 0 : -reading.of(k, 'outAmps') };
      },
    };
  }

  /** The source by itself, under the electronic load where that hangs on it, and the charger without a pack. */
  private beside(place: 'source' | 'charger'): AtPlace {
    const { charging } = this.truth.doc;
    if (!charging) return { volts: 0, amps: 0 };
    const { draws } = this.setting;
    const amps = draws?.at === 'source' ? draws.amps : 0;
    if (place === 'charger') return { volts: setVolts(charging) ?? 0, amps: 0 };
    return { volts: Math.max(0, sourceVolts(sourceLaw(charging.source), amps)), amps };
  }
}

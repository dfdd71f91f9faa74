import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import type { Plant } from '../../plant/compile.ts';
import { RANGE } from '../../plant/railState.ts';
import { MODES } from '../../stages/modes.ts';
import { celsiusOf, fullerAt, resistanceAt, type CellState } from '../step/state.ts';
import type { SharedCourse, CellWarmth, Cycling, ModeInterval, RangeInterval, RunAnswers } from './result.ts';

const RANGE_WORD = ['low', 'in', 'high'] as const;

/** What a run notes on its way besides energies and rows: who worked how from when, and the extremes. */
export class Trace {
  readonly cycling: Cycling[] = [];
  private readonly modes: { time: number; mode: number }[][];
  private readonly ranges: { time: number; range: number }[][];
  /** whether a load is switched off, by its place */
  switched: { isOff(load: number): boolean };
  private readonly extended: Uint8Array;
  private readonly worst = { amps: 0, time: 0 };
  private useful = false;
  /** [V] at the path, lowest and highest since `begin` */
  least = Infinity;
  most = -Infinity;
  /** [V] lowest at the path in each mode, and [s] when */
  private readonly lowest: { volts: number; time: number }[];

  /** how warm the cells were, where they warm themselves */
  private readonly warmth: CellWarmth | undefined;

  private readonly shared: SharedCourse | undefined;

  /** @param state whose warmth and shares are noted */
  constructor(
    private readonly plant: Plant,
    private readonly state?: CellState,
  ) {
    const { stages, loads } = plant.path;
    this.switched = plant.path.network;
    this.modes = stages.map(() => []);
    this.ranges = loads.map(() => []);
    this.extended = new Uint8Array(stages.length);
    if (state && plant.pack.warmth) {
      const celsius = celsiusOf(plant.pack, state.slow)!;
      this.warmth = { least: { celsius, time: 0 }, most: { celsius, time: 0 }, end: celsius };
    }
    if (state && plant.pack.sharing)
      this.shared = { time: [], oddSoc: [], othersSoc: [], odd: [], others: [] };
    const { programme, modes: own } = plant.doc;
    const modes = programme && own ? own.length : 0;
    this.lowest = Array.from({ length: modes }, () => ({ volts: Infinity, time: 0 }));
  }

  /** From now on extremes no longer count: the run is of no use any more. */
  end(): void {
    this.useful = true;
  }

  /** Lowest and highest volts are sought anew. */
  begin(): void {
    this.least = Infinity;
    this.most = -Infinity;
  }

  /** Note an instant; the path is read there. @param volts [V] where it begins @param mode index of the loads' */
  look(time: number, cellAmps: number, volts: number, mode: number): void {
    const { path } = this.plant;
    if (volts < this.least) this.least = volts;
    if (volts > this.most) this.most = volts;
    const lowest = this.lowest[mode];
    if (lowest && !this.useful && volts < lowest.volts) {
      lowest.volts = volts;
      lowest.time = time;
    }
    for (let k = 0; k < this.extended.length; k++) if (path.extended(k)) this.extended[k] = 1;
    if (this.shared) this.lookAtShares(this.shared, time, cellAmps);
    if (this.warmth && !this.useful) this.lookAtWarmth(this.warmth, time);
    if (!this.useful && cellAmps > this.worst.amps) {
      this.worst.amps = cellAmps;
      this.worst.time = time;
    }
  }

  private lookAtShares(shared: SharedCourse, time: number, amps: number): void {
    const { pack } = this.plant;
    const { soc, slow } = this.state!;
    const at = pack.sharing!.at(soc, slow[fullerAt(pack)]!, amps, resistanceAt(pack, slow));
    shared.time.push(time);
    for (const name of ['oddSoc', 'othersSoc', 'odd', 'others'] as const) shared[name].push(at[name]);
  }

  private lookAtWarmth(warmth: CellWarmth, time: number): void {
    const celsius = celsiusOf(this.plant.pack, this.state!.slow)!;
    warmth.end = celsius;
    if (celsius < warmth.least.celsius) warmth.least = { celsius, time };
    if (celsius > warmth.most.celsius) warmth.most = { celsius, time };
  }

  /** Lowest volts at the path in each mode so far. */
  lowestVolts(): { volts: number; time: number }[] {
    return this.lowest.map((l) => ({ ...l }));
  }

  /** Note the state after something changed; the path is read there. */
  enter(time: number): void {
    const { path } = this.plant;
    this.modes.forEach((log, k) => {
      const mode = path.modeOf(k);
      if (log.at(-1)?.mode !== mode) log.push({ time, mode });
    });
    this.ranges.forEach((log, l) => {
      // One that is switched off wants no volts.
      const range = this.switched.isOff(l) ? RANGE.in : path.rangeOf(l);
      if (log.at(-1)?.range !== range) log.push({ time, range });
    });
  }

  /** Note stages that fell back when they tried to start. */
  cycle(time: number, stages: Iterable<number>): void {
    for (const k of stages) {
      const stage = this.plant.path.stages[k]!.id;
      if (!this.cycling.some((c) => c.stage === stage)) this.cycling.push({ stage, time });
    }
  }

  /** Stretches and extremes up to the dead end. @param until [s] */
  close(until: number): Pick<
    RunAnswers,
    'stageModes' | 'loadRanges' | 'cycling' | 'worstCell' | 'warmth' | 'sharing'
  > & {
    extended: Set<string>;
  } {
    const { path, pack } = this.plant;
    const stageModes: Record<string, ModeInterval[]> = {};
    path.stages.forEach((s, k) => {
      stageModes[s.id] = stretches(this.modes[k]!, until).map(({ from, to, entry }) => ({
        from,
        to,
        mode: MODES[entry.mode]!,
      }));
    });
    const loadRanges: Record<string, RangeInterval[]> = {};
    path.loads.forEach((load, l) => {
      loadRanges[load.id] = stretches(this.ranges[l]!, until).map(({ from, to, entry }) => ({
        from,
        to,
        state: RANGE_WORD[entry.range] ?? RANGE_WORD[RANGE.low],
      }));
    });
    const rate = this.worst.amps / (pack.rated / SECONDS_PER_HOUR);
    return {
      stageModes,
      loadRanges,
      cycling: this.cycling,
      ...(this.warmth ? { warmth: this.warmth } : {}),
      ...(this.shared ? { sharing: this.shared } : {}),
      worstCell: { ...this.worst, rate },
      extended: new Set(path.stages.flatMap((s, k) => (this.extended[k] === 1 ? [s.id] : []))),
    };
  }
}

/** Stretches between the entries of a log; one that lasted no time counts only at the very end. */
function stretches<T extends { time: number }>(log: readonly T[], until: number) {
  return log
    .map((entry, k) => ({ entry, from: entry.time, to: log[k + 1]?.time ?? until }))
    .filter(({ from, to }, k) => to > from || k === log.length - 1);
}

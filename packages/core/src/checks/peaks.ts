import { drawsOf, lawAtPeak, lawIn } from '../loads/draws.ts';
import { compile, type Plant } from '../plant/compile.ts';
import { LOOK } from '../plant/cellTable.ts';
import { stageAt, STAGE_COLUMN } from '../plant/layout.ts';
import { RANGE } from '../plant/railState.ts';
import { Instant } from '../run/step/instant.ts';
import { scheduleOf } from '../run/timeline/schedule.ts';
import { ROW } from '../run/account/series.ts';
import { CellState, pathAmps } from '../run/step/state.ts';
import { GIVES_UP } from '../stages/modes.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

/** Instants at which a start is tried. */
const LOOKS = 24;

/**
 * Peaks that come only when the thread is switched on: whether they would be carried at every state of charge too, since
 * nobody always switches it on with full cells. Those of every cycle the run itself has.
 */
export function peaks(c: CheckContext): Said[] {
  const schedule = scheduleOf(c.doc);
  if (!schedule || c.reading.count === 0) return [];
  return c.doc.loads.flatMap((load, l): Said[] => {
    const cyclic = schedule.repeats && schedule.stretches.some((s) => s.peaks.includes(l));
    if (cyclic) return [];
    return (load.peaks ?? []).flatMap((peak, p): Said[] => {
      if (peak.mode !== undefined) return [];
      const first = firstFailure(c, l, p);
      if (!first) return [];
      const percent = Math.round(100 * first.soc);
      return [
        {
          id: `start:${load.id}`,
          severity: first.time > 0 ? 'tight' : 'fails',
          element: load.id,
          title: `From ${percent} % charge on ${load.name} can no longer be started`,
          reason: `Its peak of ${formatQuantity(first.watts, 'W')} for ${formatQuantity(peak.seconds, 's', 3)} ${first.why}. A run that goes on hides it; one that is switched off and on again shows it.`,
          from: first.time,
        },
      ];
    });
  });
}

interface Failure {
  /** [s], state of charge, [W] asked for */
  time: number;
  soc: number;
  watts: number;
  why: string;
}

/** The first of some instants at which a peak would not be carried. */
function firstFailure(c: CheckContext, load: number, peak: number): Failure | undefined {
  const { reading, doc } = c;
  const mode = doc.programme?.segments[0]?.mode;
  const laws = doc.loads.map((l, k) =>
    k === load ? lawAtPeak(l, l.peaks![peak]!, lawIn(l, mode)) : lawIn(l, mode),
  );
  const plant = compile(doc);
  plant.path.setDraws(drawsOf(laws));
  const state = new CellState(plant.pack, 1);
  const instant = new Instant(plant);
  const looked = plant.pack.cell.room();
  for (let k = 0; k <= LOOKS; k++) {
    const row = reading.rowAt((k / LOOKS) * reading.time(reading.last));
    state.soc = reading.at(row, ROW.soc);
    // What the branches hold together is what is missing of the volts besides R0.
    plant.pack.cell.look(state.soc, looked);
    const missing =
      reading.at(row, ROW.restVolts) -
      reading.at(row, ROW.cellVolts) -
      looked[LOOK.r0]! * reading.at(row, ROW.cellAmps);
    if (plant.pack.cell.branches > 0) state.slow[0] = missing;
    const { status } = instant.solve(state, NaN);
    plant.path.read(state.volts);
    const why =
      status === 'none'
        ? 'asks for more than the pack can give'
        : refusal(plant, state, doc.loads[load]!.peaks![peak]!.seconds);
    if (!why) continue;
    const amps = pathAmps(plant.pack, state.amps);
    return { time: reading.time(row), soc: state.soc, watts: amps * state.volts, why };
  }
  return undefined;
}

/** Why an instant cannot be: the board opens, a stage locks out or gives up, an essential load is left short. */
function refusal({ pack, path }: Plant, state: CellState, seconds: number): string | undefined {
  const amps = pathAmps(pack, state.amps);
  if (amps > pack.trip && seconds >= pack.delays.trip) {
    return `draws ${formatQuantity(amps, 'A')}, which opens the protection at ${formatQuantity(pack.trip, 'A')}`;
  }
  const stage = path.stages.findIndex((_, k) => {
    const vin = path.columns[stageAt(k) + STAGE_COLUMN.inputVolts]!;
    return vin < path.network.rails.limits[k]!.minInput || GIVES_UP[path.modeOf(k)];
  });
  if (stage >= 0) return `is more than ${path.stages[stage]!.name} carries there`;
  const short = path.loads.findIndex(
    (l, k) => l.essential && l.below !== 'dims' && path.rangeOf(k) === RANGE.low && !path.network.isOff(k),
  );
  return short < 0 ? undefined : `leaves ${path.loads[short]!.name} without the volts it needs`;
}

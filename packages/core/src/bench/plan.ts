import { sourceLaw, sourceVolts } from '../charging/source.ts';
import { programmedRange } from '../charging/current.ts';
import { stopVolts } from '../charging/volts.ts';
import { USUAL_TOLERANCES } from '../model/belief.ts';
import { isConverter, isRegulated } from '../model/kinds/registry.ts';
import { limitsOf } from '../stages/limits.ts';
import { PACK as PACK_PLACE, type ThreadDocument } from '../model/thread.ts';
import { formatDuration } from '../units/formatQuantity.ts';
import { cellTable } from '../plant/cellTable.ts';
import { CUTOFF, setWithin, TRIP } from './direct.ts';
import { halfOf, predictions, TEN, type Predictions } from './predict.ts';
import type { PlanStep, Predicted } from './step.ts';

/** Charge by which one that says it is full may be less, or more: a charger's own end. Common practice, no source. */
const FULL = 0.02;
const MINUS = { at: 'minus' } as const;
const PACK = { at: 'pack' } as const;

/** @param within half the range in which 95 of 100 are */
function around(value: number, within: number): Predicted {
  const ten = (TEN / 2) * within;
  return { value, p10: value - ten, p90: value + ten };
}

/**
 * The measuring plan of a design, in the order in which it is safe: what is looked at before anything is connected, volts without
 * load, what flows with everything off, then loads, the charger, the board, and a run-down. Steps that the design has no use
 * for are not in it.
 */
export function planOf(doc: ThreadDocument, { steps: found }: Predictions = predictions(doc)): PlanStep[] {
  return [
    ...look(doc),
    ...cells(doc),
    ...setPoints(doc),
    ...idle(doc, found),
    ...loads(doc, found),
    ...dips(doc, found),
    ...steps(doc),
    ...charging(doc),
    ...board(doc),
    ...run(doc, found),
  ];
}

function look({ pack }: ThreadDocument): PlanStep[] {
  const cells = pack.series * pack.parallel;
  return [
    {
      id: 'look',
      part: 'look',
      title: 'Look, polarity, continuity',
      how: `Nothing connected. Every one of the ${cells} cells the same way round as drawn, no bare strip, no dent; ohms from each lead to the pole it belongs to, none between the poles of the loads.`,
      probes: [],
      instrument: 'eyes',
      unit: '',
      settles: 'That nothing is destroyed by the first connection.',
      caution: 'A cell the wrong way round, or two leads swapped, can vent cells at once.',
    },
  ];
}

function cells({ pack }: ThreadDocument): PlanStep[] {
  const { cell, series, startSoc } = pack;
  const table = cellTable(cell);
  const at = (soc: number) => table.ocv(Math.min(1, Math.max(0, soc)));
  const one = { value: at(startSoc), p10: at(startSoc - FULL), p90: at(startSoc + FULL) };
  const all = { value: series * one.value, p10: series * one.p10, p90: series * one.p90 };
  const of = (id: string, title: string, how: string, predicted: Predicted, settles: string): PlanStep => ({
    id,
    part: 'cells',
    title,
    how,
    probes: [id === 'open:pack' ? PACK : { at: 'cell' }, MINUS],
    instrument: 'volts',
    unit: 'V',
    predicted,
    settles,
  });
  return [
    ...(series > 1
      ? [
          of(
            'open:cell',
            'Each group, open',
            `Rested for an hour, nothing connected: each of the ${series} groups by itself; write each down.`,
            one,
            'Charge at the start, and which group is out of step.',
          ),
        ]
      : []),
    of(
      'open:pack',
      'The pack, open',
      'Rested for an hour, nothing connected: from pole to pole behind the protection.',
      all,
      'Charge at the start, and that the board is closed.',
    ),
  ];
}

function setPoints({ stages, loads }: ThreadDocument): PlanStep[] {
  return stages.flatMap((stage): PlanStep[] => {
    if (!isRegulated(stage)) return [];
    const behind = loads.filter((l) => l.from === stage.id);
    const most = Math.min(...behind.map((l) => l.range.max));
    return [
      {
        id: `set:${stage.id}`,
        part: 'setPoints',
        title: `${stage.name}, set point`,
        how: `Fed from the pack, ${behind.length > 0 ? `${behind.map((l) => l.name).join(', ')} not connected` : 'nothing connected'}: volts at its output.`,
        probes: [{ at: 'stage', id: stage.id }, MINUS],
        instrument: 'volts',
        unit: 'V',
        predicted: around(stage.outputVolts, setWithin(stage)),
        settles: `Output volts of ${stage.name}, before anything hangs on it.`,
        ...(most < Infinity
          ? { caution: `Above ${most} V what hangs on it is not to be connected: set it first.` }
          : {}),
      },
    ];
  });
}

function idle({ pack }: ThreadDocument, found: Map<string, Predicted>): PlanStep[] {
  const known = found.get('idle')!;
  // What the board draws is no figure that is drawn: its grade says how far it may be off.
  const own = around(known.value, USUAL_TOLERANCES[pack.protection?.grade ?? 'typical'] * known.value);
  const predicted = known.p90 - known.p10 > own.p90 - own.p10 ? known : own;
  if (!(predicted.value > 0)) return [];
  return [
    {
      id: 'idle',
      part: 'idle',
      title: 'Idle current',
      how: 'Every load off: the ammeter in the positive lead, bridged while it is connected.',
      probes: [PACK, PACK],
      instrument: 'amps',
      unit: 'A',
      predicted,
      settles: 'Own draw of the stages and the board, and with it how long it keeps on the shelf.',
      caution: 'An ammeter is nearly a wire: never across the poles.',
    },
  ];
}

/** Most modes that get steps of their own: the ones that draw most. */
const MOST_MODES = 3;

function loads({ modes, stages, loads: all }: ThreadDocument, found: Map<string, Predicted>): PlanStep[] {
  if (all.length === 0) return [];
  const ids = modes?.map((m) => m.id) ?? [''];
  const heavy = [...ids]
    .sort((a, b) => found.get(`draw:${b}`)!.value - found.get(`draw:${a}`)!.value)
    .slice(0, MOST_MODES)
    .filter((m) => found.get(`draw:${m}`)!.value > 0)
    .reverse();
  return heavy.flatMap((mode): PlanStep[] => {
    const word = modes?.find((m) => m.id === mode)?.name;
    const as = word === undefined ? 'everything on' : word;
    const rails = stages.filter(isRegulated).filter((s) => all.some((l) => l.from === s.id));
    return [
      {
        id: `draw:${mode}`,
        part: 'load',
        title: `Pack current, ${as}`,
        how: `The pack full, ${as}: the ammeter in the positive lead; for peaks a clamp or the mean.`,
        probes: [PACK, PACK],
        instrument: 'amps',
        unit: 'A',
        predicted: found.get(`draw:${mode}`)!,
        settles: 'Draw of the loads and losses of the stages.',
      },
      {
        id: `sag:${mode}`,
        part: 'load',
        title: `Pack volts under it, ${as}`,
        how: 'In the first second of it: volts behind the protection; they sink on.',
        probes: [PACK, MINUS],
        instrument: 'volts',
        unit: 'V',
        predicted: found.get(`sag:${mode}`)!,
        settles: 'Resistance of cells, board and leads.',
      },
      ...rails.map((s): PlanStep => {
        const { value } = found.get(`rail:${s.id}:${mode}`)!;
        return {
          id: `rail:${s.id}:${mode}`,
          part: 'load',
          title: `${s.name} under it, ${as}`,
          how: 'At the same time: volts where the load is connected.',
          probes: [{ at: 'stage', id: s.id }, MINUS],
          instrument: 'volts',
          unit: 'V',
          predicted: around(value, setWithin(s)),
          settles: `That ${s.name} holds its volts there.`,
        };
      }),
    ];
  });
}

/** Rails at the peaks of what hangs on them. */
function dips({ loads: all }: ThreadDocument, found: Map<string, Predicted>): PlanStep[] {
  return all.flatMap((load): PlanStep[] => {
    const predicted = found.get(`dip:${load.id}`);
    if (!predicted) return [];
    const shortest = Math.min(...load.peaks!.map((p) => p.seconds));
    return [
      {
        id: `dip:${load.id}`,
        part: 'load',
        title: `${load.name}, lowest at its peak`,
        how: `The pack full, while ${load.name} draws its peak: the lowest volts where it is connected, with an oscilloscope or a meter that holds the least and is quicker than ${formatDuration(shortest / 3600)}.`,
        probes: [load.from === PACK_PLACE ? PACK : { at: 'stage', id: load.from }, MINUS],
        instrument: 'volts',
        unit: 'V',
        predicted: around(
          predicted.value,
          Math.max(0.01 * predicted.value, (predicted.p90 - predicted.p10) / TEN),
        ),
        settles: `Whether ${load.name} stays above ${load.range.min} V, and what leads and cells lose for that long.`,
      },
    ];
  });
}

/** Modules loaded in steps up to what is claimed of them. */
function steps({ stages }: ThreadDocument): PlanStep[] {
  return stages.filter(isConverter).flatMap((stage): PlanStep[] => {
    const { output } = limitsOf(stage);
    if (!(output < Infinity)) return [];
    return [
      {
        id: `steps:${stage.id}`,
        part: 'load',
        title: `${stage.name}, load steps up to its limit`,
        how: 'An electronic load at its output, alone: in ten steps up to a fifth beyond the limit; the last current at which its volts are within 5 %.',
        probes: [
          { at: 'stage', id: stage.id },
          { at: 'stage', id: stage.id },
        ],
        instrument: 'amps',
        unit: 'A',
        predicted: around(output, USUAL_TOLERANCES[stage.grade] * output),
        settles: `What ${stage.name} really gives, and its losses on the way there.`,
        caution: 'Modules get hot beyond their claims: a finger beside it, not on it.',
      },
    ];
  });
}

function charging(doc: ThreadDocument): PlanStep[] {
  if (!doc.charging) return [];
  const { source, control, stage } = doc.charging;
  const curve = sourceLaw(source);
  const half = halfOf(curve.limit);
  const droop = 2 * USUAL_TOLERANCES[source.grade] * curve.droop * half;
  const steps: PlanStep[] = [
    {
      id: 'source:open',
      part: 'charging',
      title: `${source.name}, nothing on it`,
      how: 'Nothing connected: volts at its plug.',
      probes: [{ at: 'source' }, MINUS],
      instrument: 'volts',
      unit: 'V',
      predicted: around(curve.open, 0.03 * curve.open),
      settles: 'Open volts of the source; with the next step its droop.',
      caution: 'Mains adapters stay closed; only their low side is touched.',
    },
    {
      id: 'source:half',
      part: 'charging',
      title: `${source.name} at ${half} A`,
      how: `A load of ${half} A on it, without the charger: volts at its plug.`,
      probes: [{ at: 'source' }, MINUS],
      instrument: 'volts',
      unit: 'V',
      predicted: around(sourceVolts(curve, half), Math.max(droop, 0.01 * curve.open)),
      settles: 'Droop of the source.',
      caution: 'Mains adapters stay closed; only their low side is touched.',
    },
  ];
  const stop = stopVolts(doc.charging);
  if (stop) {
    steps.push({
      id: 'charge:stop',
      part: 'charging',
      title: 'Where the charge stops, no pack on',
      how: 'The charger fed, its output open or on a small load: volts at its output.',
      probes: [{ at: 'charger' }, MINUS],
      instrument: 'volts',
      unit: 'V',
      predicted: around(stop.set, stop.likelyMost - stop.set),
      settles: 'Volts the cells are charged to.',
      caution: `Above ${Number((doc.pack.series * doc.pack.cell.fullVolts).toFixed(2))} V no cell is to be connected.`,
    });
  }
  if (control && 'outputVolts' in stage) {
    const range = control.programming && programmedRange(control.programming).worst;
    const within = range ? range.most - control.current : USUAL_TOLERANCES[stage.grade] * control.current;
    steps.push({
      id: 'charge:current',
      part: 'charging',
      title: 'Charge current',
      how: `The pack half full: the ammeter between charger and pack${control.sense === 'input' ? '; it is set at the input' : ''}.`,
      probes: [{ at: 'charger' }, PACK],
      instrument: 'amps',
      unit: 'A',
      ...(control.sense === 'output' ? { predicted: around(control.current, within) } : {}),
      settles: 'Current the charger gives, and whether the source keeps up.',
    });
    if (control.terminate !== undefined) {
      steps.push({
        id: 'charge:end',
        part: 'charging',
        title: 'Current at which it ends',
        how: 'Watch the last minutes: the current just before it falls to nothing.',
        probes: [{ at: 'charger' }, PACK],
        instrument: 'amps',
        unit: 'A',
        predicted: around(control.terminate, USUAL_TOLERANCES[stage.grade] * control.terminate),
        settles: 'How full it is when it says so.',
      });
    }
  }
  return steps;
}

function board({ pack }: ThreadDocument): PlanStep[] {
  const { protection, series } = pack;
  if (!protection) return [];
  return [
    {
      id: 'cutoff',
      part: 'protection',
      title: 'Cut-off, the board opens',
      how: 'A laboratory supply in the place of the cells, if the board lets you, or the nearly empty pack on a light load: pack volts at which it opens.',
      probes: [PACK, MINUS],
      instrument: 'volts',
      unit: 'V',
      predicted: around(series * protection.cutoffVolts, series * CUTOFF),
      settles: 'What is left in the cells when it stops.',
      caution: 'Not below what spoils the cells, and never unattended.',
    },
    {
      id: 'trip',
      part: 'protection',
      title: 'Trip, too much current',
      how: 'An electronic load behind the board, a tenth more every second: the current at which it opens. Then take the load off and see that it closes again.',
      probes: [PACK, PACK],
      instrument: 'amps',
      unit: 'A',
      predicted: around(protection.tripCurrent, TRIP * protection.tripCurrent),
      settles: 'Whether the board stands the peaks, and opens before the cells take harm.',
      caution: 'Not above what the cells, the leads and the fuse may carry: stop there, opened or not.',
    },
  ];
}

function run({ loads: all }: ThreadDocument, found: Map<string, Predicted>): PlanStep[] {
  if (all.length === 0) return [];
  return [
    {
      id: 'run',
      part: 'run',
      title: 'Run-down',
      how: 'Full to the end under its own loads, with a clock or a logger at the pack.',
      probes: [PACK, MINUS],
      instrument: 'clock',
      unit: 'h',
      predicted: found.get('run')!,
      settles: 'Everything together: what it cannot explain is in the steps before.',
      caution: 'On what does not burn, under watch; stop at the cell maker’s lowest volts.',
    },
  ];
}

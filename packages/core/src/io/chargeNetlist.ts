import { cableOhms, sourceLaw } from '../charging/source.ts';
import { setVolts } from '../charging/volts.ts';
import { PACK, type ThreadDocument } from '../model/thread.ts';
import { Reading } from '../run/reading/reading.ts';
import type { ChargeResult } from '../run/account/chargeResult.ts';
import { ROW } from '../run/account/series.ts';
import { nodeNames, packLines, railLines, type Joined } from './pathNetlist.ts';
import { spiceNumber, spiceText } from './spice.ts';

const num = (value: number) => spiceNumber(value, 10);
/** [Ω] least of a way into a rail, as it is followed. */
const STIFF = 1e-3;

/**
 * SPICE netlist of a charge at one instant: an operating point to check by. The source as its open volts behind droop and
 * cable; the charger as what it holds, its volts or its current, and an input that takes in what goes out and is lost; a diode
 * as its drop and slope; where source and battery meet on a rail, both ways into it, and whoever is higher carries.
 * @param time [s] held within the charge
 */
export function chargeNetlist(doc: ThreadDocument, result: ChargeResult, time: number): string {
  const { charging } = doc;
  const rows = new Reading(result.series);
  const reading = new Reading(result.series, Infinity);
  const row = rows.rowAt(time);
  const { open, droop } = sourceLaw(charging!.source);
  const wire = cableOhms(charging!);
  const { diode, inputDiode, join, meanwhile } = charging!;
  const fed = meanwhile === 'off' ? { ...doc, stages: [], loads: [] } : doc;
  const amps = rows.of(row, 'outAmps');
  const [vin, iin, vout] = [rows.of(row, 'inVolts'), rows.of(row, 'inAmps'), rows.of(row, 'outVolts')];
  const lost = vin * iin - vout * amps;
  const end = diode ? 'charged' : PACK;
  const names = nodeNames(fed);
  const on = join?.at ?? PACK;
  const joint: Joined | undefined = meanwhile === 'path' ? { at: on, node: 'joint' } : undefined;
  const holds = vout > (setVolts(charging!) ?? Infinity) * (1 - 2e-5);
  const pin = inputDiode ? 'pin' : 'in';
  const lines = [
    `* ${spiceText(doc.name)}: its charge at ${num(rows.at(row, 'time'))} s, ${num(100 * rows.at(row, 'soc'))} % charge`,
    ...packLines(fed, reading, row),
    `* ${spiceText(charging!.source.name)}`,
    `Vsource open 0 DC ${num(open)}`,
    `Rsource open terminals ${num(Math.max(droop, 1e-9))}`,
    `Rcable terminals in ${num(Math.max(wire, 1e-9))}`,
    '* charger',
    ...(amps > 0
      ? [
          holds ? `Vcharger x 0 DC ${num(vout)}` : `Icharger 0 x DC ${num(amps)}`,
          // A probe, so that the input knows the current.
          `Vprobe x ${end} 0`,
          `Bcharger ${pin} 0 I = (v(${end}) * i(Vprobe) + ${num(lost)}) / v(${pin})`,
        ]
      : [`Icharger ${pin} 0 DC ${num(iin)}`, ...(diode ? [`Rnone ${end} 0 1e9`] : [])]),
    ...(inputDiode ? [way('before', 'in', pin, inputDiode.volts, inputDiode.resistance)] : []),
    ...(diode ? [way('diode', end, PACK, diode.volts, diode.resistance)] : []),
    ...(joint
      ? [
          way('adapter', 'in', 'joint', join?.adapter.volts ?? 0, join?.adapter.resistance ?? 0),
          way('battery', names.get(on)!, 'joint', join?.battery.volts ?? 0, join?.battery.resistance ?? 0),
        ]
      : []),
    ...railLines(fed, reading, row, joint),
    `.nodeset v(${PACK})=${num(reading.at(row, ROW.packVolts))} v(in)=${num(rows.of(row, 'nodeVolts'))} v(${pin})=${num(vin)}${joint ? ` v(joint)=${num(jointVolts(fed, reading, row, on))}` : ''}`,
    '.op',
    '.end',
  ];
  return `${lines.join('\n')}\n`;
}

/** A way that conducts above its drop. */
function way(name: string, from: string, to: string, volts: number, ohms: number): string {
  return `B${name} ${from} ${to} I = max(0, (v(${from},${to}) - ${num(volts)}) / ${num(Math.max(ohms, STIFF))})`;
}

/** [V] that what hangs on a rail stands at. */
function jointVolts(doc: ThreadDocument, reading: Reading, row: number, at: string): number {
  const load = doc.loads.findIndex((l) => l.from === at);
  if (load >= 0) return reading.at(row, reading.load(load, 'volts'));
  const stage = doc.stages.findIndex((s) => s.from === at);
  return stage >= 0 ? reading.stageReading(row, stage).inputVolts : 0;
}

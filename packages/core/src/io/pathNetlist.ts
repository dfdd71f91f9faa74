import { drainsOf } from '../model/pack.ts';
import { PACK, type ThreadDocument } from '../model/thread.ts';
import { seriesElements } from '../plant/pack.ts';
import { spiceNumber, spiceText } from './spice.ts';
import type { RunResult } from '../run/account/result.ts';
import { readingOf, type Reading } from '../run/reading/reading.ts';
import { ROW } from '../run/account/series.ts';
import { passesInput } from '../stages/traits.ts';
import { isRegulated } from '../model/kinds/registry.ts';

/** Digits of an operating point: more than any solver gives. */
const num = (value: number) => spiceNumber(value, 10);

/**
 * SPICE netlist of a whole path at one instant of its run: an operating point to check by. Cells as their rest
 * voltage behind the resistance they show then; every series element in its place; a stage as its output volts
 * and an input that takes in what goes out and is lost at that instant; loads by what they keep constant.
 * Behavioural sources (B) are what any newer SPICE has.
 * @param time [s] held within the run
 */
export function pathNetlist(doc: ThreadDocument, run: RunResult, time: number): string {
  const reading = readingOf(run);
  const row = reading.rowAt(time);
  const lines = [
    `* ${spiceText(doc.name)}: the path at ${num(reading.time(row))} s, ${num(100 * reading.at(row, ROW.soc))} % charge`,
    ...packLines(doc, reading, row),
    ...railLines(doc, reading, row),
  ];
  // Constant-power sources have a second solution near zero volts: start at the one the run is at.
  const guesses = [`v(${PACK})=${num(reading.at(row, ROW.packVolts))}`];
  const names = nodeNames(doc);
  doc.stages.forEach((s, k) => {
    const vout = reading.stageReading(row, k).outputVolts;
    guesses.push(`v(${names.get(s.id)!})=${num(vout)}`);
  });
  lines.push(`.nodeset ${guesses.join(' ')}`, '.op', '.end');
  return `${lines.join('\n')}\n`;
}

/** The cells as a source, what always draws, and what lies between them and the path. */
export function packLines(doc: ThreadDocument, reading: Reading, row: number): string[] {
  const { series, parallel, protection } = doc.pack;
  const quiescent = drainsOf(doc.pack).reduce((sum, d) => sum + d.current, protection?.quiescentCurrent ?? 0);
  const elements = seriesElements(doc.pack);
  const cellAmps = reading.at(row, ROW.cellAmps);
  const drop = reading.at(row, ROW.restVolts) - reading.at(row, ROW.cellVolts);
  const ohms = cellAmps === 0 ? 0 : (drop / cellAmps) * (series / parallel);
  const lines = [
    `Vcells rest 0 DC ${num(series * reading.at(row, ROW.restVolts))}`,
    `Rcells rest cells ${num(Math.max(ohms, 1e-9))}`,
    ...(quiescent > 0 ? [`Ialways cells 0 DC ${num(quiescent)}`] : []),
  ];
  let at = 'cells';
  elements.forEach((e, k) => {
    const next = k === elements.length - 1 ? PACK : `n${k + 1}`;
    lines.push(`R${e.id} ${at} ${next} ${num(e.ohms)}`);
    at = next;
  });
  if (at !== PACK) lines.push(`R${PACK} ${at} ${PACK} 1e-9`);
  return lines;
}

/** The stages and loads at a row. @param joint rail that a diode keeps apart from the stage that feeds it, if any */
export function railLines(doc: ThreadDocument, reading: Reading, row: number, joint?: Joined): string[] {
  const lines: string[] = [];
  const names = nodeNames(doc);
  doc.stages.forEach((s, k) => {
    const { inputVolts: vin, inputAmps: iin, outputVolts, outputAmps: iout } = reading.stageReading(row, k);
    const node = names.get(s.id)!;
    const input = railOf(names, s.from, joint);
    lines.push(`* ${spiceText(s.name)}`);
    const wire = isRegulated(s) ? undefined : passesInput(s);
    // Behind the diode of a joint the row has the rail's volts: the stage's own are those it is set to.
    const vout = s.id === joint?.at && isRegulated(s) ? s.outputVolts : outputVolts;
    if (wire) lines.push(`R${node} ${input} ${node} ${num(Math.max(wire.resistance, 1e-9))}`);
    else if (!(vout > 0)) lines.push(`I${node} ${input} 0 DC ${num(iin)}`, `R${node} ${node} 0 1`);
    else {
      const lost = vin * iin - vout * iout;
      lines.push(
        `V${node} ${node}x 0 DC ${num(vout)}`,
        // A probe, so that the input knows the current.
        `V${node}p ${node}x ${node} 0`,
        `B${node} ${input} 0 I = (v(${node}) * i(V${node}p) + ${num(lost)}) / v(${input})`,
      );
    }
  });
  doc.loads.forEach((l, k) => {
    const node = railOf(names, l.from, joint);
    const name = `load${k + 1}`;
    const volts = reading.at(row, reading.load(k, 'volts'));
    const amps = reading.at(row, reading.load(k, 'amps'));
    lines.push(`* ${spiceText(l.name)}`);
    if (!(volts > 0)) lines.push(`R${name} ${node} 0 1e9`);
    else if (l.draw === 'resistance' && amps > 0) lines.push(`R${name} ${node} 0 ${num(volts / amps)}`);
    else if (l.draw === 'current') lines.push(`I${name} ${node} 0 DC ${num(amps)}`);
    else lines.push(`B${name} ${node} 0 I = ${num(volts * amps)} / v(${node})`);
  });
  return lines;
}

/** A rail that two feed: its name in the thread, and the node behind both ways into it. */
export interface Joined {
  at: string;
  node: string;
}

function railOf(names: Map<string, string>, from: string, joint: Joined | undefined): string {
  return joint?.at === from ? joint.node : names.get(from)!;
}

/** Node of every rail: `pack`, and a plain name for each stage's output. */
export function nodeNames(doc: ThreadDocument): Map<string, string> {
  const names = new Map([[PACK as string, PACK as string]]);
  doc.stages.forEach((s, k) => names.set(s.id, `s${k + 1}`));
  return names;
}

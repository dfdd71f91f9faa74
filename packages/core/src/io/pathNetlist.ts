import { PACK, type ThreadDocument } from '../model/thread.ts';
import { packSource } from '../pack/source.ts';
import { spiceNumber, spiceText } from './spice.ts';
import type { RunResult } from '../solver/result.ts';
import { LOAD_ROW, loadColumn, ROW, rowAt, rowStride, stageColumn, STAGE_ROW } from '../solver/series.ts';

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
  const { data, stages } = run.series;
  const row = rowAt(run.series, time) * rowStride(run.series.stages, run.series.loads);
  const source = packSource(doc.pack);
  const cellAmps = data[row + ROW.cellAmps]!;
  const drop = data[row + ROW.restVolts]! - data[row + ROW.cellVolts]!;
  const ohms = cellAmps > 0 ? (drop / cellAmps) * (source.series / source.parallel) : 0;
  const lines = [
    `* ${spiceText(doc.name)}: the path at ${num(data[row]!)} s, ${num(100 * data[row + ROW.soc]!)} % charge`,
    `Vcells rest 0 DC ${num(source.series * data[row + ROW.restVolts]!)}`,
    `Rcells rest cells ${num(Math.max(ohms, 1e-9))}`,
    ...(source.quiescent > 0 ? [`Iprotection cells 0 DC ${num(source.quiescent)}`] : []),
  ];
  let at = 'cells';
  source.elements.forEach((e, k) => {
    const next = k === source.elements.length - 1 ? PACK : `n${k + 1}`;
    lines.push(`R${e.id} ${at} ${next} ${num(e.ohms)}`);
    at = next;
  });
  if (at !== PACK) lines.push(`R${PACK} ${at} ${PACK} 1e-9`);
  const names = nodeNames(doc);
  doc.stages.forEach((s, k) => {
    const c = row + stageColumn(k);
    const [vin, iin, vout, iout] = [
      data[c + STAGE_ROW.inputVolts]!,
      data[c + STAGE_ROW.inputAmps]!,
      data[c + STAGE_ROW.outputVolts]!,
      data[c + STAGE_ROW.outputAmps]!,
    ];
    const node = names.get(s.id)!;
    const input = names.get(s.from)!;
    lines.push(`* ${spiceText(s.name)}`);
    if (s.kind === 'direct') lines.push(`R${node} ${input} ${node} ${num(Math.max(s.resistance, 1e-9))}`);
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
    const c = row + loadColumn(stages, k);
    const node = names.get(l.from)!;
    const name = `load${k + 1}`;
    const volts = data[c + LOAD_ROW.volts]!;
    lines.push(`* ${spiceText(l.name)}`);
    if (!(volts > 0)) lines.push(`R${name} ${node} 0 1e9`);
    else if (l.draw === 'resistance') lines.push(`R${name} ${node} 0 ${num(l.resistance!)}`);
    else if (l.draw === 'current') lines.push(`I${name} ${node} 0 DC ${num(data[c + LOAD_ROW.amps]!)}`);
    else lines.push(`B${name} ${node} 0 I = ${num(volts * data[c + LOAD_ROW.amps]!)} / v(${node})`);
  });
  // Constant-power sources have a second solution near zero volts: start at the one the run is at.
  const guesses = [`v(${PACK})=${num(data[row + ROW.packVolts]!)}`];
  doc.stages.forEach((s, k) => {
    const vout = data[row + stageColumn(k) + STAGE_ROW.outputVolts]!;
    guesses.push(`v(${names.get(s.id)!})=${num(vout)}`);
  });
  lines.push(`.nodeset ${guesses.join(' ')}`, '.op', '.end');
  return `${lines.join('\n')}\n`;
}

/** Node of every rail: `pack`, and a plain name for each stage's output. */
function nodeNames(doc: ThreadDocument): Map<string, string> {
  const names = new Map([[PACK as string, PACK as string]]);
  doc.stages.forEach((s, k) => names.set(s.id, `s${k + 1}`));
  return names;
}

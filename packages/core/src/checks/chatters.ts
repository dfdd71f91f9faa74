import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { ROW } from '../run/account/series.ts';
import { chatter } from '../transients/chatter.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Said } from './finding.ts';

/** A lock-out that the pack's recovery undoes: found once, with how often it would happen. */
export function chatters(c: CheckContext, stage: Stage): Said[] {
  return c.run.cycling
    .filter((x) => x.stage === stage.id)
    .map(({ time }): Said => ({
      id: `cycling:${stage.id}`,
      severity: 'tight',
      element: stage.id,
      title: `${stage.name} would switch on and off again and again`,
      reason: `When it locks out the pack recovers past its restart volts, it starts, and the pack sags again${howOften(c, stage, time)}. More hysteresis or less resistance stops it.`,
      from: time,
    }));
}

/** [F] at a stage's input where its parts do not say. Common practice, no source. */
const USUAL_INPUT = 47e-6;

const JUST_OVER = 1.05;

/** “, some 10 kHz” by the closed form of a lock-out behind the pack's resistance; its order of magnitude is all that is known. */
function howOften(c: CheckContext, stage: Stage, time: number): string {
  if (!isRegulated(stage) || stage.from !== 'pack') return '';
  const { reading, doc, limits } = c;
  const k = doc.stages.indexOf(stage);
  const off = limits[k]!.minInput;
  // The end of the step in which it locked out: what the pack gives there, and through which resistance.
  const row = Math.min(reading.count - 1, reading.rowAt(time * (1 - 1e-9)) + 1);
  const open = doc.pack.series * reading.at(row, ROW.restVolts);
  const amps = reading.at(row, ROW.packAmps);
  const volts = reading.at(row, ROW.packVolts);
  const parts = 'parts' in stage ? stage.parts : undefined;
  const own = parts?.inputCapacitor;
  const farads = own ? own.capacitance * own.count * own.biasShare : USUAL_INPUT;
  const ohms = (open - volts) / amps;
  // At that very row it just still stays: a little more, and it does not.
  const watts = JUST_OVER * volts * amps;
  const { hertz } = chatter({ open, ohms, watts, on: off + stage.hysteresis, off, farads });
  if (!(hertz > 0 && Number.isFinite(hertz))) return '';
  return `, some ${formatQuantity(10 ** Math.round(Math.log10(hertz)), 'Hz', 1)}`;
}

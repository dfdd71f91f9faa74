import { surroundingsOf } from '../model/thread.ts';
import { isConverter, STAGE_KINDS, type Stage } from '../model/kinds/registry.ts';
import type { LinearStage } from '../model/kinds/linear.ts';
import { rowStride, stageColumn, STAGE_ROW } from '../solver/series.ts';
import { usesParts } from '../stages/switching.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import { askedAmps, type CheckContext } from './context.ts';
import type { Action, Finding } from './finding.ts';

/**
 * Junctions of stages whose loss is stated: air + θ·P, P the hottest instant up to the useful end, or what the
 * loads would make of it where the stage folded back. Elementary. Stages with parts have their own check.
 */
export function heat(c: CheckContext): Finding[] {
  const { air, maxAir } = surroundingsOf(c.doc);
  return c.doc.stages.flatMap((stage, k): Finding[] => {
    if (stage.kind === 'direct' || (isConverter(stage) && usesParts(stage))) return [];
    const { thermalResistance, maxJunction = Infinity } = stage;
    if (!thermalResistance) return [];
    const { watts, time } = hottest(c, k);
    const junction = air + watts * thermalResistance;
    const room = maxJunction - junction;
    const numbers = `${formatQuantity(watts, 'W')} × ${thermalResistance} K/W above ${air} °C air`;
    const common = { id: `junction:${stage.id}`, element: stage.id, from: time };
    const action = stage.kind === 'linear' ? { action: swapForBuck(stage, k) } : {};
    if (room < 20) {
      const folds = room < 0 ? 'It folds its output back or shuts down there. ' : '';
      return [
        {
          ...common,
          severity: room < 0 ? 'fails' : 'tight',
          title: `${stage.name} reaches ${Math.round(junction)} °C; its limit is ${maxJunction} °C`,
          reason: `${folds}${numbers}; ${maxAir} °C outside and a closed box make it hotter still.`,
          ...action,
        },
      ];
    }
    if (stage.kind !== 'linear') return [];
    const passed = c.extremes(c.column.stage(k, 'inputVolts')).most;
    const useless = 1 - stage.outputVolts / passed;
    if (!(watts > 0.25 && useless > 0.3)) return [];
    return [
      {
        ...common,
        severity: 'note',
        title: `${stage.name} turns ${Math.round(100 * useless)} % of what it takes into heat`,
        reason: `It drops ${formatQuantity(passed - stage.outputVolts, 'V')}: ${numbers} gives ${Math.round(junction)} °C.`,
        ...action,
      },
    ];
  });
}

/** Whether a linear stage could not give what is asked of it for its heat. */
export function tooHot(c: CheckContext, stage: Stage): boolean {
  if (stage.kind !== 'linear') return false;
  const { air } = surroundingsOf(c.doc);
  const { watts } = hottest(c, c.doc.stages.indexOf(stage));
  return air + watts * stage.thermalResistance > stage.maxJunction;
}

function swapForBuck(stage: LinearStage, k: number): Action {
  const value = {
    ...STAGE_KINDS.buck.create(stage.id, stage.from, stage.outputVolts),
    name: stage.name,
  };
  return { label: `Swap ${stage.name} for a buck`, edits: [{ op: 'replace', path: ['stages', k], value }] };
}

/** [W] largest loss of a stage up to the useful end, and when; of a linear stage what its loads ask for. */
export function hottest(c: CheckContext, k: number): { watts: number; time: number } {
  const { data, count, stages, loads } = c.run.series;
  const stage = c.doc.stages[k]!;
  const asked = stage.kind === 'linear' ? askedOf(c, stage) : 0;
  const stride = rowStride(stages, loads);
  const at = stageColumn(k);
  let watts = 0;
  let time = 0;
  for (let r = 0; r < count && data[r * stride]! <= c.run.usefulEnd.time; r++) {
    const row = r * stride + at;
    const volts = data[row + STAGE_ROW.inputVolts]!;
    let lost =
      volts * data[row + STAGE_ROW.inputAmps]! -
      data[row + STAGE_ROW.outputVolts]! * data[row + STAGE_ROW.outputAmps]!;
    if (stage.kind === 'linear') lost = Math.max(lost, (volts - stage.outputVolts) * asked);
    if (lost > watts) {
      watts = lost;
      time = data[r * stride]!;
    }
  }
  return { watts, time };
}

/** [A] that the loads of a stage ask for at its set volts, no more than it can give. */
function askedOf(c: CheckContext, stage: Stage & { outputVolts: number }): number {
  return Math.min(
    askedAmps(c.doc, stage.id, stage.outputVolts),
    c.limits[c.doc.stages.indexOf(stage)]!.output,
  );
}

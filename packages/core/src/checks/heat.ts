import { formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import type { Finding } from './finding.ts';
import { rowStride, stageColumn, STAGE_ROW } from '../solver/series.ts';
import { STAGE_KINDS } from '../model/kinds/registry.ts';

/** [°C] Air around the parts. */
export const AIR = 25;

/** Junction of linear stages: air + θ·P, P the hottest instant up to the useful end. Elementary. */
export function heat(c: CheckContext): Finding[] {
  const found: Finding[] = [];
  c.doc.stages.forEach((stage, k) => {
    if (stage.kind !== 'linear') return;
    const { watts, time } = hottest(c, k);
    const junction = AIR + watts * stage.thermalResistance;
    const room = stage.maxJunction - junction;
    const passed = c.extremes(c.column.stage(k, 'inputVolts')).most;
    const useless = 1 - stage.outputVolts / passed;
    const action = {
      label: `Swap ${stage.name} for a buck`,
      edits: [
        {
          op: 'replace' as const,
          path: ['stages', k],
          value: { ...STAGE_KINDS.buck.create(stage.id, stage.from, stage.outputVolts), name: stage.name },
        },
      ],
    };
    const numbers = `${formatQuantity(watts, 'W')} × ${stage.thermalResistance} K/W above ${AIR} °C air`;
    if (room < 20) {
      found.push({
        id: `junction:${stage.id}`,
        severity: room < 0 ? 'fails' : 'tight',
        element: stage.id,
        title: `${stage.name} reaches ${Math.round(junction)} °C; its limit is ${stage.maxJunction} °C`,
        reason: `${numbers}. Inside a closed box the air is hotter still.`,
        from: time,
        action,
      });
    } else if (watts > 0.25 && useless > 0.3) {
      found.push({
        id: `junction:${stage.id}`,
        severity: 'note',
        element: stage.id,
        title: `${stage.name} turns ${Math.round(100 * useless)} % of what it takes into heat`,
        reason: `It drops ${formatQuantity(passed - stage.outputVolts, 'V')}: ${numbers} gives ${Math.round(junction)} °C.`,
        from: time,
        action,
      });
    }
  });
  return found;
}

/** [W] largest loss of a stage up to the useful end, and when. */
export function hottest(c: CheckContext, k: number): { watts: number; time: number } {
  const { data, count, stages, loads } = c.run.series;
  const stride = rowStride(stages, loads);
  const at = stageColumn(k);
  let watts = 0;
  let time = 0;
  for (let r = 0; r < count && data[r * stride]! <= c.run.usefulEnd.time; r++) {
    const row = r * stride + at;
    const lost =
      data[row + STAGE_ROW.inputVolts]! * data[row + STAGE_ROW.inputAmps]! -
      data[row + STAGE_ROW.outputVolts]! * data[row + STAGE_ROW.outputAmps]!;
    if (lost > watts) {
      watts = lost;
      time = data[r * stride]!;
    }
  }
  return { watts, time };
}

import type { Loss } from '../model/loss.ts';
import type { Stage } from '../model/kinds/registry.ts';

/** Fields of a stage and its parts that its loss is in proportion to, at least nearly. */
const LOSSY = new Set([
  ...['resistance', 'forwardVolts', 'dropoutVolts', 'dropoutResistance', 'bothLoss', 'pathResistance'],
  ...['coreLoss', 'gateCharge', 'outputCapacitance', 'turnOnTime', 'turnOffTime', 'rectifierVolts'],
]);

/** [A] a stage draws for itself; 0 where it does not. */
export function ownDrawOf(stage: Stage): number {
  if ('loss' in stage) return stage.loss.quiescentCurrent;
  return 'quiescentCurrent' in stage ? stage.quiescentCurrent : 0;
}

/** A stage that draws so many times as much for itself. */
export function withOwnDraw(stage: Stage, by: number): Stage {
  if (by === 1) return stage;
  if ('loss' in stage) {
    return { ...stage, loss: { ...stage.loss, quiescentCurrent: by * stage.loss.quiescentCurrent } };
  }
  return 'quiescentCurrent' in stage ? { ...stage, quiescentCurrent: by * stage.quiescentCurrent } : stage;
}

/** A stage that loses so many times as much, at every load. */
export function withLoss(stage: Stage, by: number): Stage {
  if (by === 1) return stage;
  const { parts, ...rest } = stage as Stage & { parts?: object };
  const scaled = multiplied(rest, by) as Stage;
  const own = parts ? { parts: multiplied(parts, by) } : {};
  if (!('loss' in stage)) return { ...scaled, ...own } as Stage;
  return { ...scaled, loss: lossTimes(stage.loss, stage.outputVolts, by), ...own } as Stage;
}

function lossTimes(loss: Loss, volts: number, by: number): Loss {
  // Of what goes in, what is lost: 1/η − 1 of what comes out.
  const efficiency = (eta: number) => 1 / (1 + (1 / eta - 1) * by);
  if (loss.basis === 'efficiency') return { ...loss, efficiency: efficiency(loss.efficiency) };
  if (loss.basis === 'polynomial') {
    return {
      ...loss,
      fixed: by * loss.fixed,
      perOutputAmp: by * loss.perOutputAmp,
      perInputAmp: by * loss.perInputAmp,
      perInputAmpSquared: by * loss.perInputAmpSquared,
    };
  }
  const points = loss.points.map((p) => {
    if (p.efficiency !== undefined) return { ...p, efficiency: efficiency(p.efficiency) };
    const out = volts * p.outputAmps;
    return { ...p, inputAmps: (out + by * (p.inputVolts * p.inputAmps! - out)) / p.inputVolts };
  });
  return { ...loss, points };
}

/** What a part says of its loss so many times, all else as it is. */
function multiplied(value: object, by: number): object {
  return Object.fromEntries(
    Object.entries(value).map(([name, v]: [string, unknown]) => {
      if (typeof v === 'number') return [name, LOSSY.has(name) ? v * by : v];
      const deep = typeof v === 'object' && v !== null && !Array.isArray(v) && name !== 'loss';
      return [name, deep ? multiplied(v, by) : v];
    }),
  );
}

import {
  isConverter,
  isRegulated,
  STAGE_KINDS,
  swapKind,
  type Regulated,
  type Stage,
} from '../model/kinds/registry.ts';
import { surroundingsOf } from '../model/thread.ts';
import type { Envelope } from '../sizing/envelope.ts';
import { warmsUp } from '../sizing/heat.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import type { ModeInterval } from '../run/account/result.ts';
import { HOLDS } from '../stages/modes.ts';
import { StagePoint } from '../stages/point.ts';
import { junction } from '../design/thermal.ts';
import { usesParts } from '../stages/switching.ts';
import { stageSolver } from '../stages/traits.ts';
import { askedAmps, firstMode, type CheckContext } from './context.ts';
import type { Action, Said } from './finding.ts';
import { isPossible } from '../model/possible.ts';

/** [K] below a junction's limit that is little room: a data sheet's air is cooler than a box. */
const LITTLE_ROOM = 20;

const AIR_WORDS = {
  coldest: 'the coldest air',
  usual: 'the usual air',
  warmest: 'the warmest air',
  box: 'its closed box',
};

/** Parts that get too hot, in whatever air is the worst, and stages that fold back for it. */
export function heat(c: CheckContext): Said[] {
  return c.doc.stages.flatMap((stage, k): Said[] => {
    const folds = firstMode(c, stage, 'thermalLimit') ?? collapsesForHeat(c, stage, k);
    if (folds && isRegulated(stage)) return [foldsBack(c, stage, k, folds.from)];
    const burns = isRegulated(stage) && !isConverter(stage);
    if (!burns && !warmsUp(stage)) return [];
    const envelope = c.envelope(k);
    const hot = envelope.heat
      .filter((h) => h.limit !== undefined)
      .sort((a, b) => a.limit! - a.celsius - (b.limit! - b.celsius))[0];
    if (hot && hot.limit! - hot.celsius < LITTLE_ROOM) return [tooHot(stage, envelope, hot)];
    return burns ? burnsTooMuch(stage, envelope) : [];
  });
}

/**
 * The collapse of a stage that its heat alone has caused: without a limit to its junction, from the same input, it would
 * hold what its loads ask for.
 */
export function collapsesForHeat(c: CheckContext, stage: Stage, k: number): ModeInterval | undefined {
  const collapse = firstMode(c, stage, 'collapsed');
  if (!collapse || !isRegulated(stage) || !('maxJunction' in stage)) return undefined;
  return HOLDS[withoutHeatLimit(c, stage, k, collapse.from).mode] ? collapse : undefined;
}

/** A stage at an instant of the run, were there no limit to its junction. Its own loads alone hang on it. */
function withoutHeatLimit(c: CheckContext, stage: Regulated, k: number, time: number): StagePoint {
  const free = { ...stage, maxJunction: undefined, thermalResistance: 0 } as Stage;
  const { inputVolts } = c.reading.stageReading(c.reading.rowAt(time), k);
  const point = new StagePoint();
  const asked = (volts: number) => askedAmps(c.doc, stage.id, volts).reduce((sum, l) => sum + l.amps, 0);
  stageSolver(free)(inputVolts, asked, point);
  return point;
}

function tooHot(stage: Stage, { snapshots }: Envelope, hot: Envelope['heat'][number]): Said {
  const limit = hot.limit!;
  const room = limit - hot.celsius;
  const from = snapshots.find((s) => s.heatRoom !== undefined && s.heatRoom < (room < 0 ? 0 : LITTLE_ROOM));
  const where = `${AIR_WORDS[hot.air]}, ${Math.round(hot.airCelsius)} °C`;
  const ways = isConverter(stage)
    ? 'More copper under the part, a lower frequency or larger switches cool it.'
    : 'More copper under it or fewer volts across it cool it.';
  return {
    id: `junction:${stage.id}`,
    severity: room < 0 ? 'fails' : 'tight',
    element: stage.id,
    title: `${stage.name}: ${hot.name.toLowerCase()} reaches ${Math.round(hot.celsius)} °C; its limit is ${limit} °C`,
    reason: `In ${where}, it turns ${formatQuantity(hot.watts, 'W')} into heat. ${ways}`,
    ...(from ? { from: from.time } : {}),
    excess: (hot.celsius - hot.airCelsius) / Math.max(1e-9, limit - hot.airCelsius),
    ...coolerStage(stage),
  };
}

function foldsBack(c: CheckContext, stage: Regulated, k: number, from: number): Said {
  const { air } = surroundingsOf(c.doc);
  const { resistance, limit } = junctionOf(stage);
  const { inputVolts, inputAmps, outputVolts, outputAmps } = withoutHeatLimit(c, stage, k, from);
  const watts = inputVolts * inputAmps - outputVolts * outputAmps;
  const wanted = junction(air, resistance, watts);
  return {
    id: `junction:${stage.id}`,
    severity: from < c.needed ? 'fails' : 'tight',
    element: stage.id,
    title: `${stage.name} folds back for its heat`,
    reason: `To hold ${formatQuantity(stage.outputVolts, 'V')} from ${formatQuantity(inputVolts, 'V')} it would turn ${formatQuantity(watts, 'W')} into heat: in ${air} °C air it would reach ${Math.round(wanted)} °C; its limit is ${limit} °C.`,
    from,
    excess: (wanted - air) / Math.max(1e-9, limit - air),
    ...coolerStage(stage),
  };
}

/** [K/W] [°C] of the package that folds back. */
function junctionOf(stage: Regulated): { resistance: number; limit: number } {
  const of = isConverter(stage) && usesParts(stage) ? stage.parts! : stage;
  const { thermalResistance = 0, maxJunction = Infinity } = of as unknown as Partial<Record<string, number>>;
  return { resistance: thermalResistance, limit: maxJunction };
}

/** What a stage may burn without a word. [W], and share of what it takes. */
const MUCH = { watts: 0.25, share: 0.3 };

function burnsTooMuch(stage: Exclude<Regulated, { loss: unknown }>, { snapshots }: Envelope): Said[] {
  const worst = snapshots.reduce((a, b) => (heatOf(b) > heatOf(a) ? b : a));
  const share = 1 - (worst.vout * worst.iout) / (worst.vin * worst.iin);
  if (!(heatOf(worst) > MUCH.watts && share > MUCH.share)) return [];
  const hottest = worst.hottest ? `, ${Math.round(worst.hottest.celsius)} °C` : '';
  return [
    {
      id: `junction:${stage.id}`,
      severity: 'note',
      element: stage.id,
      title: `${stage.name} turns ${Math.round(100 * share)} % of what it takes into heat`,
      reason: `It drops ${formatQuantity(worst.vin - worst.vout, 'V')}: ${formatQuantity(heatOf(worst), 'W')}${hottest}.`,
      from: snapshots[0]!.time,
      excess: heatOf(worst) / MUCH.watts,
      ...coolerStage(stage),
    },
  ];
}

const heatOf = (s: { vin: number; iin: number; vout: number; iout: number }) =>
  s.vin * s.iin - s.vout * s.iout;

/** A buck in the place of a stage that burns what is over. */
function coolerStage(stage: Stage): { action: Action } | Record<string, never> {
  if (isConverter(stage) || !isRegulated(stage)) return {};
  const { dropoutResistance } = STAGE_KINDS.buck.create('', '', stage.outputVolts);
  const value = {
    ...swapKind(stage, 'buck', stage.outputVolts),
    dropoutResistance,
    name: stage.name,
  } as Stage;
  // What limited the heat goes with it: a buck that burns little has another package.
  for (const field of ['thermalResistance', 'maxJunction'])
    delete (value as unknown as Record<string, unknown>)[field];
  if (!isPossible(value)) return {};
  return {
    action: {
      label: `Swap ${stage.name} for a buck`,
      edits: [{ op: 'replace', path: ['stages', stage.id], value }],
    },
  };
}

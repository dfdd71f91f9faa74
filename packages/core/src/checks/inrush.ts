import { PULSE_SHARE, usualMelting } from '../conductors/fuse.ts';
import { isRegulated } from '../model/kinds/registry.ts';
import { seriesElements } from '../plant/pack.ts';
import { inrush } from '../transients/inrush.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import { askedAmps, feedsDirect, fullPackVolts, type CheckContext } from './context.ts';
import type { Said } from './finding.ts';

const A = (a: number) => formatQuantity(a, 'A');
const V = (v: number) => formatQuantity(v, 'V');
const S = (s: number) => formatQuantity(s, 's', 3);

/** What the loads' capacitances ask for when they are connected. */
export function capacitances(c: CheckContext): Said[] {
  return [...inrushes(c), ...slowStarts(c)];
}

/** Capacitances that are charged through the pack's own resistance when they are connected. */
function inrushes(c: CheckContext): Said[] {
  const { pack } = c.doc;
  const ohms =
    (pack.series / pack.parallel) * Math.max(1e-4, Math.min(...pack.cell.r0.ohms)) +
    seriesElements(pack).reduce((sum, e) => sum + e.ohms, 0);
  return c.doc.loads.flatMap((load): Said[] => {
    if (!load.capacitance || !feedsDirect(c.doc, load.from)) return [];
    const { peak, i2t } = inrush(fullPackVolts(c.doc), ohms, load.capacitance);
    const tau = ohms * load.capacitance;
    const trips = tripsOnInrush(c, peak, tau);
    const melting = pack.fuse && (pack.fuse.meltingI2t ?? usualMelting(pack.fuse.rating));
    const wears = melting !== undefined && i2t > PULSE_SHARE * melting;
    if (!trips && !wears) return [];
    const fuseWords = wears
      ? ` The fuse gets ${formatQuantity(i2t, 'A²s', 3)} of the ${formatQuantity(melting, 'A²s', 3)} that melt it.`
      : '';
    return [
      {
        id: `inrush:${load.id}`,
        severity: trips || (melting !== undefined && i2t > melting) ? 'fails' : 'tight',
        element: load.id,
        title: `Connecting ${load.name} draws up to ${A(peak)} for a moment`,
        reason: `Its ${formatQuantity(load.capacitance, 'F')} charge through ${formatQuantity(ohms, 'Ω')} with ${S(tau)}.${trips ? ` The board opens at ${A(trips)}.` : ''}${fuseWords} A switch that lets the volts rise slowly, or a resistor for the first moment, prevents it.`,
        ...(trips ? { excess: peak / trips } : {}),
      },
    ];
  });
}

/** [s] in its current limit after which many a converter gives up and starts anew. Common practice, no source. */
const GIVES_UP_AFTER = 20e-3;

/** Capacitances that a stage charges at its current limit: C·V/(limit − load). Elementary. */
function slowStarts(c: CheckContext): Said[] {
  return c.doc.loads.flatMap((load): Said[] => {
    const k = c.doc.stages.findIndex((s) => s.id === load.from);
    const stage = c.doc.stages[k];
    if (!load.capacitance || !stage || !isRegulated(stage)) return [];
    const limit = c.limits[k]!.output;
    const asked = askedAmps(c.doc, stage.id, stage.outputVolts).reduce((sum, a) => sum + a.amps, 0);
    if (limit === Infinity || asked >= limit) return [];
    const seconds = (load.capacitance * stage.outputVolts) / (limit - asked);
    if (seconds <= GIVES_UP_AFTER) return [];
    return [
      {
        id: `slow-start:${load.id}`,
        severity: 'tight',
        element: stage.id,
        title: `${stage.name} takes ${S(seconds)} at its limit to charge ${load.name}`,
        reason: `${formatQuantity(load.capacitance, 'F')} to ${V(stage.outputVolts)} with the ${A(limit - asked)} that its ${A(limit)} leave beside the loads. Many converters give up after some ${S(GIVES_UP_AFTER)} in their limit and start again and again; less capacitance, a soft start, or loads that come on later help.`,
        excess: seconds / GIVES_UP_AFTER,
      },
    ];
  });
}

/** [A] the limit an inrush opens the board at: it must stay above it for the delay. i = (V/R)·e^(−t/τ). Elementary. */
function tripsOnInrush(c: CheckContext, peak: number, tau: number): number | undefined {
  const board = c.doc.pack.protection;
  if (!board) return undefined;
  const levels = [
    { limit: board.tripCurrent, delay: board.tripDelay ?? 0 },
    { limit: board.shortCurrent ?? Infinity, delay: board.shortDelay ?? 0 },
  ];
  return levels.find(({ limit, delay }) => peak > limit && tau * Math.log(peak / limit) >= delay)?.limit;
}

import { CHARGE_LIMITS } from '../../charging/limits.ts';
import { endsFull } from '../../run/account/chargeResult.ts';
import { formatDuration } from '../../units/formatQuantity.ts';
import { SECONDS_PER_HOUR } from '../../units/constants.ts';
import { Reading } from '../../run/reading/reading.ts';
import { passesInput } from '../../stages/traits.ts';
import type { Said } from '../finding.ts';
import { A, C, V, W, type ChargeContext } from './context.ts';

const hours = (seconds: number) => formatDuration(seconds / SECONDS_PER_HOUR);
const percent = (share: number) => `${Math.round(100 * share)} %`;

/** Share of the time for which heat may hold a charge back. Common practice, no source. */
const MUCH = 0.1;
/** [W] in a linear charger that wants copper, where nothing is said of its junction. Common practice, no source. */
const WARM = 1;

/** Whether it ends, when, and what keeps it from it. */
export function ends(c: ChargeContext): Said[] {
  return [...never(c), ...broken(c), ...late(c), ...passes(c), ...hot(c)];
}

/** A charge that goes on for ever, or to its timer. */
function never({ doc, result, charging, source }: ChargeContext): Said[] {
  const { end } = result;
  if (!end.keeps) return [];
  const at = `stays at ${percent(end.soc)}`;
  const stopped = end.reason === 'timer' ? `, until its timer stops it after ${hours(end.time)}` : '';
  const base = { id: 'never-ends:charger', element: 'charger' } as const;
  switch (end.keeps) {
    case 'load': {
      const limit = charging.control!.terminate!;
      return [
        {
          ...base,
          severity: 'fails',
          title: `With the loads on it never ends${stopped}`,
          reason: `It ends once it gives less than ${A(limit)}; the loads alone take up to ${A(end.amps)} of what it gives. Cells held at full volts for ever age.`,
          action: {
            label: 'Keep them off while charging',
            edits: [{ op: 'replace', path: ['charging', 'meanwhile'], value: 'off' }],
          },
        },
      ];
    }
    case 'noEnd':
      if (!charging.control) return [];
      return [
        {
          ...base,
          severity: 'tight',
          title: `Nothing ends it: it floats at ${V(end.cellVolts)} a cell`,
          reason: `Lithium cells do not want a float at full volts: they age. Take it off, or let it end at a tenth of its current.`,
          action: {
            label: `End it below ${A(charging.control.current / 10)}`,
            edits: [
              {
                op: 'add',
                path: ['charging', 'control', 'terminate'],
                value: Number((charging.control.current / 10).toPrecision(3)),
              },
            ],
          },
        },
      ];
    case 'headroom':
      return [
        {
          ...base,
          severity: 'fails',
          title: `It ${at}: ${V(source.open)} are too few above the pack`,
          reason: `The charger ${CHARGE_LIMITS.headroom.phrase}: full, the pack wants ${V(doc.pack.series * doc.pack.cell.fullVolts)} and some headroom. A higher contract, or a charger that steps up, fills it.`,
        },
      ];
    case 'letsGo':
      return [];
    default:
      return [
        {
          ...base,
          severity: 'fails',
          title: `It ${at}${stopped || ' and never ends'}`,
          reason: {
            heat: `The charger ${CHARGE_LIMITS.heat.phrase}.`,
            source: `The charger ${CHARGE_LIMITS.source.phrase}, and the loads take what comes.`,
            lockOut: `The source sags to where the charger locks out, again and again.`,
            slow: `What flows does not fall below its limit in time.`,
          }[end.keeps],
        },
      ];
  }
}

/** A charge that ends before it is full. */
function broken({ result, charging, doc }: ChargeContext): Said[] {
  const { end } = result;
  const base = { element: 'charger', severity: 'fails' } as const;
  const air = doc.conditions?.air ?? 25;
  switch (end.reason) {
    case 'prechargeTimer':
      return [
        {
          ...base,
          id: 'precharge-timer:charger',
          title: `It is given up after ${hours(end.time)} of gentle current, at ${percent(end.soc)}`,
          reason: `The cells do not reach ${V(charging.control!.precharge!.below)} with ${A(charging.control!.precharge!.current)} in time: more current, more time, or a cell that leaks.`,
        },
      ];
    case 'overCharged': {
      const { groups } = result;
      const stands = groups
        ? `its fullest group stands at ${V(Math.max(...groups.volts))} a cell`
        : `the cells rest at ${V(end.restVolts)}`;
      return [
        {
          ...base,
          severity: 'danger',
          element: 'cells',
          id: 'over-charged:cells',
          title: `After ${hours(end.time)} ${stands}, full is ${V(doc.pack.cell.fullVolts)}, and it goes on`,
          reason: `${A(end.amps)} still flow. Past full, cells may catch fire.`,
        },
      ];
    }
    case 'overVoltage':
      return [
        {
          ...base,
          element: 'protection',
          id: 'board-stops:protection',
          title: `The board stops it at ${percent(end.soc)}, on its fullest group`,
          reason: `One group stands at ${V(doc.pack.protection!.overVolts!)} a cell before the rest is full. They need to be brought even first.`,
        },
      ];
    case 'cold':
    case 'hot':
      return [
        {
          ...base,
          id: 'charge-stops:charger',
          title: `At ${C(air)} it does not begin: its thermistor stops it`,
          reason: `That is what it is for: cells charged in the cold plate lithium, in the heat they age.`,
        },
      ];
    case 'drained':
      return [
        {
          ...base,
          id: 'charge-drained:charger',
          title: `The loads take more than comes: the pack is empty after ${hours(end.time)}`,
          reason: `A stronger source, or loads that are off meanwhile, let it fill.`,
        },
      ];
    case 'unfinished':
      return [
        {
          ...base,
          severity: 'tight',
          id: 'charge-breaks-off:charger',
          title: `The charge breaks off after ${hours(end.time)}, at ${percent(end.soc)}: what comes then is not known`,
          reason: `It took more work than is allowed. What is shown holds until then; fewer stages in one chain, or loads that switch less often, would say more.`,
          from: end.time,
        },
      ];
    default:
      return [];
  }
}

function late({ doc, result }: ChargeContext): Said[] {
  const wanted = doc.goals.chargeHours;
  const { end } = result;
  if (wanted === undefined || !endsFull(end.reason)) return [];
  const took = end.time / SECONDS_PER_HOUR;
  if (took <= wanted) return [];
  return [
    {
      id: 'charge-late:charger',
      severity: 'fails',
      element: 'charger',
      title: `Full in ${formatDuration(took)}, wanted within ${formatDuration(wanted)}`,
      reason: `${result.phases.some((p) => p.limit === 'source') ? 'The source holds it back: a stronger one is faster.' : 'More current is faster, as far as the cells take it.'}`,
      excess: took / wanted,
    },
  ];
}

/** A step-up that cannot hold back what its source gives. */
function passes({ result, charging, source }: ChargeContext): Said[] {
  if (!charging.control) return [];
  const way = passesInput(charging.stage);
  // What lets go under it has gone straight through before.
  const lets = way && source.open - way.volts > new Reading(result.series).at(0, 'packVolts');
  const through = result.phases.find((p) => p.limit === 'through' || (lets && p.limit === 'letsGo'));
  if (!through) return [];
  const held =
    through.limit === 'letsGo'
      ? `all that the source may give flows until it lets go, again and again`
      : `${A(result.mostSource)} flow at most, held by the source alone`;
  return [
    {
      id: 'charge-through:charger',
      severity: 'danger',
      element: 'charger',
      title: `The source's ${V(source.open)} go straight through it, whatever it is set to`,
      reason: `While the pack stands below its input a step-up cannot hold anything back: ${held}. Ask for a contract below the empty pack, or use a charger that steps down.`,
      from: through.from,
    },
  ];
}

function hot({ result, charging }: ChargeContext): Said[] {
  const { hottest, end, phases } = result;
  if (!hottest) return [];
  const folded = phases.reduce((s, p) => s + (p.limit === 'heat' ? p.to - p.from : 0), 0);
  const { stage } = charging;
  const limit = 'maxJunction' in stage ? stage.maxJunction : undefined;
  const { celsius, watts, time } = hottest;
  if (folded > MUCH * end.time) {
    return [
      {
        id: 'charge-heat:charger',
        severity: 'tight',
        element: 'charger',
        title: `It folds back for its heat for ${hours(folded)}`,
        reason: `${W(watts)} would take its junction beyond ${C(limit ?? 125)}. A source with fewer volts, or a charger that switches, loses less.`,
        from: phases.find((p) => p.limit === 'heat')!.from,
      },
    ];
  }
  if (celsius !== undefined && limit !== undefined && celsius > limit - 10) {
    return [
      {
        id: 'charge-heat:charger',
        severity: celsius > limit ? 'fails' : 'tight',
        element: 'charger',
        title: `Its junction reaches ${C(celsius)} of ${C(limit)}`,
        reason: `${W(watts)} turn to heat in it at ${hours(time)}.`,
        from: time,
        excess: celsius / limit,
      },
    ];
  }
  if (stage.kind !== 'linear' || celsius !== undefined || watts < WARM) return [];
  return [
    {
      id: 'charge-heat:charger',
      severity: 'note',
      element: 'charger',
      title: `${W(watts)} turn to heat in the charger`,
      reason: `A linear charger burns what the source has above the pack: give it copper, or a source with fewer volts.`,
    },
  ];
}

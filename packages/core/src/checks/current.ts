import { formatQuantity } from '../units/formatQuantity.ts';
import { askedAmps, type CheckContext } from './context.ts';
import type { Action, Finding } from './finding.ts';
import { tooHot } from './heat.ts';
import type { Edit } from '../model/edit.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';

const A = (a: number) => formatQuantity(a, 'A');
const V = (v: number) => formatQuantity(v, 'V');

/** Currents beyond what cells, protection, fuse and leads stand. Worst values are up to the useful end. */
export function current(c: CheckContext): Finding[] {
  return [...cellRate(c), ...trip(c), ...fuse(c), ...leadDrop(c), ...stageLimits(c), ...collapse(c)];
}

/** The next value with two significant digits: a part is never proposed smaller than what was worked out. */
function upToTwoDigits(value: number): number {
  const unit = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Number((Math.ceil(value / unit - 1e-9) * unit).toPrecision(2));
}

function cellRate(c: CheckContext): Finding[] {
  const { worstCell } = c.run;
  const { dischargeRate } = c.doc.pack.cell;
  const share = worstCell.rate / dischargeRate;
  if (share <= 0.8) return [];
  const parallel = Math.ceil(c.doc.pack.parallel * Math.max(share / 0.7, 1));
  const over = share > 1;
  return [
    {
      id: 'c-rate:cells',
      severity: over ? 'danger' : 'tight',
      element: 'cells',
      title: over
        ? `Each cell gives ${A(worstCell.amps)}, ${worstCell.rate.toFixed(2)} C; it is rated ${dischargeRate} C`
        : `Each cell gives up to ${worstCell.rate.toFixed(2)} C of its rated ${dischargeRate} C`,
      reason:
        'At constant power the current is highest when the cells are lowest. Over its rating a cell overheats.',
      from: worstCell.time,
      action: {
        label: `Use ${parallel} in parallel`,
        edits: [{ op: 'replace', path: ['pack', 'parallel'], value: parallel }],
      },
    },
  ];
}

function trip(c: CheckContext): Finding[] {
  const { protection } = c.doc.pack;
  if (!protection) return [];
  const { most, mostTime } = c.extremes(c.column.packAmps);
  const tripped = c.run.deadEnd.reason === 'trip';
  if (!tripped && most < 0.7 * protection.tripCurrent) return [];
  const room = Math.round((1 - most / protection.tripCurrent) * 100);
  // After a trip the current further down is not known: at constant power it grows as the cells sag.
  const sag = tripped ? c.extremes(c.column.cellVolts).least / (0.9 * c.doc.pack.cell.endVolts) : 1;
  const wanted = upToTwoDigits(1.6 * Math.max(most, protection.tripCurrent) * Math.max(1, sag));
  return [
    {
      id: 'trip:protection',
      severity: tripped ? 'fails' : 'tight',
      element: 'protection',
      title: tripped
        ? `Protection trips at ${A(protection.tripCurrent)} and cuts everything off`
        : `Protection trips at ${A(protection.tripCurrent)}, the run draws ${A(most)}`,
      reason: tripped
        ? 'As the pack sags the converters draw more, until the board opens.'
        : `Only ${room} % room, before any peak or inrush. Cold cells sag further and draw more.`,
      from: tripped ? c.run.deadEnd.time : mostTime,
      action: {
        label: `Use a board that trips at ${A(wanted)}`,
        edits: [{ op: 'replace', path: ['pack', 'protection', 'tripCurrent'], value: wanted }],
      },
    },
  ];
}

/** Common practice, no source: run a fuse at no more than three quarters of its rating. */
const FUSE_SHARE = 0.75;

function fuse(c: CheckContext): Finding[] {
  const { fuse } = c.doc.pack;
  if (!fuse) return [];
  const { most, mostTime } = c.extremes(c.column.packAmps);
  if (most <= FUSE_SHARE * fuse.rating) return [];
  const over = most > fuse.rating;
  const rating = upToTwoDigits(most / FUSE_SHARE);
  return [
    {
      id: 'fuse:fuse',
      severity: over ? 'fails' : 'tight',
      element: 'fuse',
      title: over
        ? `The run draws ${A(most)} through a ${A(fuse.rating)} fuse`
        : `The fuse carries ${Math.round((100 * most) / fuse.rating)} % of its rating`,
      reason: over
        ? 'It may hold for minutes, but ages and opens.'
        : 'Fuses carried above three quarters of their rating age and open early.',
      from: mostTime,
      action: {
        label: `Use ${A(rating)}, if the wire stands it`,
        edits: [{ op: 'replace', path: ['pack', 'fuse', 'rating'], value: rating }],
      },
    },
  ];
}

/** Common practice, no source: keep the drop of the leads below 3 % of the pack. */
const DROP_SHARE = 0.03;

function leadDrop(c: CheckContext): Finding[] {
  const ohms = c.source.elements
    .filter((e) => e.id === 'leads' || e.id === 'connectors')
    .reduce((sum, e) => sum + e.ohms, 0);
  const { most, mostTime } = c.extremes(c.column.packAmps);
  const drop = ohms * most;
  const pack = c.doc.pack.series * c.extremes(c.column.cellVolts).least;
  if (!(drop > DROP_SHARE * pack)) return [];
  return [
    {
      id: 'drop:leads',
      severity: 'tight',
      element: 'leads',
      title: `Leads and connectors drop ${V(drop)} at ${A(most)}`,
      reason: `That is ${((100 * drop) / pack).toFixed(1)} % of the pack and ${formatQuantity(drop * most, 'W')} of heat; thicker or shorter leads give it back.`,
      from: mostTime,
    },
  ];
}

function stageLimits(c: CheckContext): Finding[] {
  const found: Finding[] = [];
  for (const stage of c.doc.stages) {
    const limited = c.run.stageModes[stage.id]?.find(
      (m) => m.mode === 'currentLimit' || m.mode === 'collapsed',
    );
    if (!limited || limited.from > c.run.usefulEnd.time * (1 + 1e-9)) continue;
    const collapsed = limited.mode === 'collapsed';
    const over = askedTooMuch(c, stage);
    // Heat has its own finding, with its own way out.
    if (!over && tooHot(c, stage)) continue;
    found.push({
      id: `current-limit:${stage.id}`,
      severity: limited.from < c.doc.need.hours * 3600 ? 'fails' : 'tight',
      element: stage.id,
      title: `${stage.name} ${collapsed ? 'collapses' : 'reaches its current limit'}`,
      reason:
        over?.reason ??
        (collapsed
          ? 'Its loads ask for more power the lower their volts, more than it can give: the output falls to nothing.'
          : 'It folds its output back; the rail no longer stands at its set volts.'),
      from: limited.from,
      ...(over ? { action: over.action } : {}),
    });
  }
  return found;
}

/** Loads that ask at the set volts for more than the output limit; what hangs on stages below is not counted. */
function askedTooMuch(c: CheckContext, stage: Stage): { reason: string; action: Action } | undefined {
  const limit = c.limits[c.doc.stages.indexOf(stage)]!.output;
  if (!isRegulated(stage) || limit === Infinity) return undefined;
  const asked = askedAmps(c.doc, stage.id, stage.outputVolts);
  if (asked <= limit) return undefined;
  const wanted = upToTwoDigits(1.25 * asked);
  return {
    reason: `Its loads ask for ${A(asked)} at ${V(stage.outputVolts)}; it gives ${A(limit)} at most.`,
    action: {
      label: `Use a stage that gives ${A(wanted)}`,
      edits: strongerStage(c.doc.stages.indexOf(stage), stage, wanted),
    },
  };
}

/** A stronger module has its own listing and chip: what the old ones stated goes with them. */
function strongerStage(k: number, stage: Stage, wanted: number): Edit[] {
  const stated = ['listing', 'chip'].filter((name) => name in stage);
  return [
    {
      op: 'outputLimit' in stage ? 'replace' : 'add',
      path: ['stages', k, 'outputLimit'],
      value: wanted,
    },
    ...stated.map((name): Edit => ({ op: 'remove', path: ['stages', k, name] })),
  ];
}

function collapse(c: CheckContext): Finding[] {
  const { reason, time, nose } = c.run.deadEnd;
  if (reason !== 'collapse') return [];
  const most = nose
    ? ` The most it can give there is ${formatQuantity(nose.watts, 'W')} at ${V(nose.volts)}.`
    : '';
  return [
    {
      id: 'collapse:cells',
      severity: time < c.doc.need.hours * 3600 ? 'fails' : 'tight',
      element: 'cells',
      title: 'The pack collapses under its load',
      reason: `The loads ask for constant power: as volts fall current rises, until no current gives that power.${most}`,
      from: time,
    },
  ];
}

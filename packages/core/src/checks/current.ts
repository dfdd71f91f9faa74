import { preece, FUSE_CLASSES, meltsWithin } from '../conductors/fuse.ts';
import { leadSection } from '../conductors/lead.ts';
import type { Edit } from '../model/edit.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { RegulatedStage } from '../model/kinds/base.ts';
import { Fuse, Pack, Protection, type Lead } from '../model/pack.ts';
import { compile } from '../plant/compile.ts';
import { seriesElements } from '../plant/pack.ts';
import { answersOf } from '../solver/rundown.ts';
import { ROW } from '../solver/series.ts';
import { formatDuration, formatQuantity } from '../units/formatQuantity.ts';
import { collapsesForHeat } from './heat.ts';
import { askedAmps, firstMode, type CheckContext } from './context.ts';
import type { Action, Finding } from './finding.ts';
import { fits, offerNumber, upToTwoDigits } from './offer.ts';

const A = (a: number) => formatQuantity(a, 'A');
const V = (v: number) => formatQuantity(v, 'V');
const rate = (c: number) => `${Number(c.toPrecision(3))} C`;

/** Currents beyond what cells, protection, fuse and leads stand. Worst values are up to the useful end. */
export function current(c: CheckContext): Finding[] {
  return [
    ...cellRate(c),
    ...trip(c),
    ...fuse(c),
    ...leadDrop(c),
    ...leadHeat(c),
    ...stageLimits(c),
    ...collapse(c),
  ];
}

/** [s] from when on a column stands above a value. */
function above(c: CheckContext, column: number, value: number): { from?: number } {
  const row = c.reading.firstRow((r) => c.reading.at(r, column) > value);
  return row === undefined ? {} : { from: c.reading.time(row) };
}

/** Share of a cell's rated current that is little room. */
const RATE_SHARE = 0.8;

function cellRate(c: CheckContext): Finding[] {
  const { worstCell } = c.run;
  const { cell, parallel } = c.doc.pack;
  const share = worstCell.rate / cell.dischargeRate;
  if (share <= RATE_SHARE) return [];
  const wanted = Math.ceil((parallel * share) / 0.7);
  const over = share > 1;
  const rated = (cell.dischargeRate * worstCell.amps) / worstCell.rate;
  return [
    {
      id: 'c-rate:cells',
      severity: over ? 'danger' : 'tight',
      element: 'cells',
      title: over
        ? `Each cell gives ${A(worstCell.amps)}, ${worstCell.rate.toFixed(2)} C; it is rated ${rate(cell.dischargeRate)}`
        : `Each cell gives up to ${worstCell.rate.toFixed(2)} C of its rated ${rate(cell.dischargeRate)}`,
      reason:
        'At constant power the current is highest when the cells are lowest. Over its rating a cell overheats.',
      ...above(c, ROW.cellAmps, over ? rated : RATE_SHARE * rated),
      excess: share,
      ...offerNumber(Pack, ['pack', 'parallel'], wanted, `Use ${wanted} in parallel`),
    },
  ];
}

/** Share of the trip current from which little room is left. */
const TRIP_SHARE = 0.7;

function trip(c: CheckContext): Finding[] {
  const { protection } = c.doc.pack;
  if (!protection) return [];
  const { most } = c.reading.extremes(c.reading.count > 0 ? ROW.packAmps : 0);
  const tripped = c.run.deadEnd.reason === 'trip';
  const share = most / protection.tripCurrent;
  if (!tripped && share < TRIP_SHARE) return [];
  // After a trip the current further down is not known: the same thread behind a board that never trips tells.
  const needed = tripped ? currentWithoutTrip(c) : most;
  const wanted = upToTwoDigits(1.6 * Math.max(needed, tripped ? protection.tripCurrent : 0));
  const largest = largestLoad(c);
  return [
    {
      id: 'trip:protection',
      severity: tripped ? 'fails' : 'tight',
      element: 'protection',
      title: tripped
        ? `Protection trips at ${A(protection.tripCurrent)} and cuts everything off`
        : `Protection trips at ${A(protection.tripCurrent)}, the run draws ${A(most)}`,
      reason: tripped
        ? `${largest}Up to ${A(needed)} would flow.`
        : `${Math.round((1 - share) * 100)} % room, before any peak or inrush. Cold cells sag further and draw more.`,
      ...(tripped
        ? { from: c.run.deadEnd.time }
        : above(c, ROW.packAmps, TRIP_SHARE * protection.tripCurrent)),
      excess: Math.max(share, needed / protection.tripCurrent),
      ...offerNumber(
        Protection,
        ['pack', 'protection', 'tripCurrent'],
        wanted,
        `Use a board that trips at ${A(wanted)}`,
      ),
    },
  ];
}

/** [A] most the pack gives when its board never trips. */
function currentWithoutTrip(c: CheckContext): number {
  const protection = { ...c.doc.pack.protection!, tripCurrent: Infinity };
  const free = answersOf(compile({ ...c.doc, pack: { ...c.doc.pack, protection } }));
  return free.worstCell.amps * c.doc.pack.parallel;
}

/** “Pump alone takes 4 A. ” of the load that draws the largest share of the pack's current. */
function largestLoad(c: CheckContext): string {
  const asked = c.doc.loads
    .map((load, l) => ({
      load,
      watts: c.reading.loadWatts(0, l),
      amps: c.reading.at(0, c.reading.load(l, 'amps')),
    }))
    .sort((a, b) => b.watts - a.watts)[0];
  if (!asked || !(asked.watts > 0)) {
    const named = c.doc.loads.find((l) => l.draw === 'current' && l.from === 'pack');
    return named ? `${named.name} alone takes ${A(named.current!)}. ` : '';
  }
  return `${asked.load.name} alone takes ${A(asked.amps)}, ${formatQuantity(asked.watts, 'W')}. `;
}

/** Common practice, no source: run a fuse at no more than three quarters of its rating. */
const FUSE_SHARE = 0.75;

function fuse(c: CheckContext): Finding[] {
  const { fuse } = c.doc.pack;
  if (!fuse) return [];
  const { most } = c.reading.extremes(ROW.packAmps);
  const share = most / fuse.rating;
  if (share <= FUSE_SHARE) return [];
  const over = share > 1;
  const rating = upToTwoDigits(most / FUSE_SHARE);
  return [
    {
      id: 'fuse:fuse',
      severity: over ? 'fails' : 'tight',
      element: 'fuse',
      title: over
        ? `The run draws ${A(most)} through a ${A(fuse.rating)} fuse`
        : `The fuse carries ${Math.round(100 * share)} % of its rating`,
      reason: over
        ? `At ${Math.round(100 * share)} % of its rating ${meltingWords(share)}.`
        : 'Fuses carried above three quarters of their rating age and open early.',
      ...above(c, ROW.packAmps, (over ? 1 : FUSE_SHARE) * fuse.rating),
      excess: share,
      ...offerNumber(Fuse, ['pack', 'fuse', 'rating'], rating, `Use ${A(rating)}, if the wire stands it`),
    },
  ];
}

/** “a blade fuse opens within 5 s, a quick 5 × 20 mm one within 30 min”. */
function meltingWords(multiple: number): string {
  const words = FUSE_CLASSES.map((k) => {
    const most = meltsWithin(k, multiple);
    if (most === Infinity) return `a ${k.name} fuse may hold for hours, but ages`;
    return `a ${k.name} fuse opens within ${most < 60 ? formatQuantity(most, 's') : formatDuration(most / 3600)}`;
  });
  return words.join(', ');
}

/** Common practice, no source: keep the drop of the leads below 3 % of the pack. */
const DROP_SHARE = 0.03;

function leadDrop(c: CheckContext): Finding[] {
  const ohms = seriesElements(c.doc.pack)
    .filter((e) => e.id === 'leads' || e.id === 'connectors')
    .reduce((sum, e) => sum + e.ohms, 0);
  const { most } = c.reading.extremes(ROW.packAmps);
  const drop = ohms * most;
  const pack = c.doc.pack.series * c.reading.extremes(ROW.cellVolts).least;
  if (!(drop > DROP_SHARE * pack)) return [];
  return [
    {
      id: 'drop:leads',
      severity: 'tight',
      element: 'leads',
      title: `Leads and connectors drop ${V(drop)} at ${A(most)}`,
      reason: `That is ${((100 * drop) / pack).toFixed(1)} % of the pack and ${formatQuantity(drop * most, 'W')} of heat; thicker or shorter leads give it back.`,
      ...above(c, ROW.packAmps, (DROP_SHARE * pack) / ohms),
      excess: drop / (DROP_SHARE * pack),
    },
  ];
}

/** [A/mm²] a short bundled wire carries without getting hot. Common practice, no source. */
const WARM_DENSITY = 10;
/** Share of the current that melts a bare wire from which its insulation goes. Common practice, no source. */
const BURNS = 0.4;

function leadHeat(c: CheckContext): Finding[] {
  const { most } = c.reading.extremes(ROW.packAmps);
  return c.doc.pack.leads.flatMap((lead): Finding[] => {
    const density = most / leadSection(lead);
    if (!(density > WARM_DENSITY) || !(lead.length > 0)) return [];
    const melts = fusingCurrent(lead);
    const burns = most > BURNS * melts;
    return [
      {
        id: 'heat:leads',
        severity: burns ? 'danger' : 'tight',
        element: 'leads',
        title: `A lead carries ${A(most)}, ${density.toFixed(0)} A/mm²`,
        reason: burns
          ? `It burns: a bare wire like it melts at ${A(melts)}, its insulation long before.`
          : `More than ${WARM_DENSITY} A/mm² warms a bundled wire noticeably; a thicker one stays cool.`,
        ...above(c, ROW.packAmps, WARM_DENSITY * leadSection(lead)),
        excess: density / WARM_DENSITY,
      },
    ];
  });
}

/** [A] that melts a lead: its wires, each by itself. */
function fusingCurrent(lead: Lead): number {
  const diameter = Math.sqrt(((4 / Math.PI) * leadSection(lead)) / lead.parallel) / 1000;
  return lead.parallel * preece(diameter);
}

function stageLimits(c: CheckContext): Finding[] {
  return c.doc.stages.flatMap((stage, k): Finding[] => {
    const limited = firstMode(c, stage, 'currentLimit', 'collapsed');
    // Heat has its own finding, with its own way out.
    if (!limited || collapsesForHeat(c, stage, k)) return [];
    const collapsed = limited.mode === 'collapsed';
    const over = askedTooMuch(c, stage, k);
    return [
      {
        id: `current-limit:${stage.id}`,
        severity: limited.from < c.needed ? 'fails' : 'tight',
        element: stage.id,
        title: `${stage.name} ${collapsed ? 'collapses' : 'reaches its current limit'}`,
        reason:
          over?.reason ??
          (collapsed
            ? 'Its loads ask for more power the lower their volts, more than it can give: the output falls to nothing.'
            : 'It folds its output back; the rail no longer stands at its set volts.'),
        from: limited.from,
        ...(over?.action ? { action: over.action } : {}),
      },
    ];
  });
}

/** Loads that ask at the set volts for more than the output limit; what hangs on stages below is not counted. */
function askedTooMuch(
  c: CheckContext,
  stage: Stage,
  k: number,
): { reason: string; action?: Action } | undefined {
  const limit = c.limits[k]!.output;
  if (!isRegulated(stage) || limit === Infinity) return undefined;
  const loads = askedAmps(c.doc, stage.id, stage.outputVolts);
  const asked = loads.reduce((sum, l) => sum + l.amps, 0);
  if (asked <= limit) return undefined;
  const wanted = upToTwoDigits(1.25 * asked);
  const first = loads.length > 1 ? `, ${A(loads[0]!.amps)} of it ${loads[0]!.load.name}` : '';
  const label = `Use a stage that gives ${A(wanted)}`;
  return {
    reason: `Its loads ask for ${A(asked)} at ${V(stage.outputVolts)}${first}; it gives ${A(limit)} at most.`,
    ...(fits(RegulatedStage, 'outputLimit', wanted)
      ? { action: { label, edits: strongerStage(stage, wanted) } }
      : {}),
  };
}

/** A stronger module has its own listing and chip: what the old ones stated goes with them. */
function strongerStage(stage: Stage, wanted: number): Edit[] {
  const stated = ['listing', 'chip'].filter((name) => name in stage);
  return [
    {
      op: 'outputLimit' in stage ? 'replace' : 'add',
      path: ['stages', stage.id, 'outputLimit'],
      value: wanted,
    },
    ...stated.map((name): Edit => ({ op: 'remove', path: ['stages', stage.id, name] })),
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
      severity: time < c.needed ? 'fails' : 'tight',
      element: 'cells',
      title: 'The pack collapses under its load',
      reason: `The loads ask for constant power: as volts fall current rises, until no current gives that power.${most}`,
      from: time,
    },
  ];
}

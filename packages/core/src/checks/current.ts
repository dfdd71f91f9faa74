import { preece } from '../conductors/fuse.ts';
import { leadSection } from '../conductors/lead.ts';
import type { Edit } from '../model/edit.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import { RegulatedStage } from '../model/kinds/base.ts';
import { Pack, type Lead } from '../model/pack.ts';
import { seriesElements } from '../plant/pack.ts';
import { ROW } from '../run/account/series.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import { collapsesForHeat } from './heat.ts';
import { askedAmps, firstMode, type CheckContext } from './context.ts';
import type { Action, Said } from './finding.ts';
import { fits } from '../model/possible.ts';
import { offerNumber, upToTwoDigits } from './offer.ts';

const A = (a: number) => formatQuantity(a, 'A');
const V = (v: number) => formatQuantity(v, 'V');
const rate = (c: number) => `${Number(c.toPrecision(3))} C`;

/** Currents beyond what cells, protection, fuse and leads stand. Worst values are up to the useful end. */
export function current(c: CheckContext): Said[] {
  return [...cellRate(c), ...leadDrop(c), ...leadHeat(c), ...stageLimits(c), ...collapse(c)];
}

/** [s] from when on a column stands above a value. */
export function above(c: CheckContext, column: number, value: number): { from?: number } {
  const row = c.reading.firstRow((r) => c.reading.at(r, column) > value);
  return row === undefined ? {} : { from: c.reading.time(row) };
}

/** Share of a cell's rated current that is little room. */
const RATE_SHARE = 0.8;

function cellRate(c: CheckContext): Said[] {
  const { worstCell } = c.run;
  const { cell, parallel } = c.doc.pack;
  const brief = briefly(c);
  const rated = brief && cell.peakDischargeRate !== undefined ? cell.peakDischargeRate : cell.dischargeRate;
  const share = worstCell.rate / rated;
  if (share <= RATE_SHARE) return [];
  const wanted = Math.ceil((parallel * share) / 0.7);
  const over = share > 1;
  const ratedAmps = (rated * worstCell.amps) / worstCell.rate;
  const of = rated === cell.dischargeRate ? 'rated' : 'rated for a few seconds';
  return [
    {
      id: 'c-rate:cells',
      tried: true,
      severity: over ? 'danger' : 'tight',
      element: 'cells',
      title: over
        ? `Each cell gives ${A(worstCell.amps)}, ${worstCell.rate.toFixed(2)} C; it is ${of} ${rate(rated)}`
        : `Each cell gives up to ${worstCell.rate.toFixed(2)} C of its ${of} ${rate(rated)}`,
      reason: `${brief ? `${brief} ` : ''}At constant power the current is highest when the cells are lowest. Over its rating a cell overheats.`,
      ...above(c, ROW.cellAmps, over ? ratedAmps : RATE_SHARE * ratedAmps),
      excess: share,
      ...offerNumber(Pack, ['pack', 'parallel'], wanted, `Use ${wanted} in parallel`),
    },
  ];
}

/** [s] that count as a few seconds. Common practice, no source. */
const FEW_SECONDS = 10;

/** “It lasts 300 ms, while Pump is at its peak.” where the cells' largest current lasts no longer than a peak. */
function briefly(c: CheckContext): string | undefined {
  if (c.reading.count === 0) return undefined;
  const at = c.doings.at(c.reading.extremes(ROW.cellAmps).mostRow);
  if (!at || at.peaks.length === 0 || at.seconds > FEW_SECONDS) return undefined;
  const names = at.peaks.map((l) => c.doc.loads[l]!.name).join(' and ');
  return `It lasts ${formatQuantity(at.seconds, 's', 3)}, while ${names} ${at.peaks.length > 1 ? 'are' : 'is'} at the peak.`;
}

/** Common practice, no source: keep the drop of the leads below 3 % of the pack. */
const DROP_SHARE = 0.03;

function leadDrop(c: CheckContext): Said[] {
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

function leadHeat(c: CheckContext): Said[] {
  const { most } = c.reading.extremes(ROW.packAmps);
  return c.doc.pack.leads.flatMap((lead): Said[] => {
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

function stageLimits(c: CheckContext): Said[] {
  return c.doc.stages.flatMap((stage, k): Said[] => {
    const limited = firstMode(c, stage, 'currentLimit', 'collapsed');
    // Heat has its own finding, with its own way out.
    if (!limited || collapsesForHeat(c, stage, k)) return [];
    const collapsed = limited.mode === 'collapsed';
    const over = askedTooMuch(c, stage, k);
    return [
      {
        id: `current-limit:${stage.id}`,
        tried: true,
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

function collapse(c: CheckContext): Said[] {
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

import { agesFull, chemistryOf } from '../model/chemistries/registry.ts';
import type { Edit } from '../model/edit.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { cellTable } from '../plant/cellTable.ts';
import { compile } from '../plant/compile.ts';
import type { Conditions } from '../plant/conditions.ts';
import { timesLonger } from '../backup/float.ts';
import { settingTo } from '../charging/setting.ts';
import { charge } from '../run/charge.ts';
import { endsFull } from '../run/account/chargeResult.ts';
import { idleDraw } from '../run/idle.ts';
import { answersOf } from '../run/rundown.ts';
import { SECONDS_PER_HOUR } from '../units/constants.ts';

/** Where trades differ. */
export const SCHOOLS = ['trim', 'rate', 'cutoff', 'capacity'] as const;
export type SchoolId = (typeof SCHOOLS)[number];

/** One of several ways, and what it costs. */
export interface SchoolChoice {
  id: string;
  name: string;
  /** who does so, and why */
  says: string;
  /** [h] the run-down */
  hours: number;
  /** what it costs in wear, in words with figures */
  wear: string;
  /** what chooses it; none where it is but a way to reckon */
  edits: Edit[];
  /** whether the thread is so now */
  now: boolean;
}

/** A question on which practitioners differ. */
export interface School {
  id: SchoolId;
  question: string;
  choices: SchoolChoice[];
  /** id of the one taken where nothing else is said, and why */
  usual: string;
  because: string;
}

/** Share within which a value is that of a choice. */
const SAME = 2e-3;

const hoursOf = (doc: ThreadDocument, conditions: Partial<Conditions> = {}) =>
  answersOf(compile(doc, conditions)).usefulEnd.time / SECONDS_PER_HOUR;
const V = (volts: number) => `${volts.toFixed(2)} V`;
const near = (a: number, b: number) => Math.abs(a - b) <= SAME * Math.max(Math.abs(a), Math.abs(b));

/** The questions of a design on which practitioners differ, each with what its answers cost there. */
export function schoolsOf(doc: ThreadDocument): School[] {
  return [...trim(doc), ...rate(doc), ...cutoff(doc), ...capacity(doc)];
}

/** Charge to the maker's full volts, or stop a tenth of a volt below. Common practice, no source. */
function trim(doc: ThreadDocument): School[] {
  const { pack, charging } = doc;
  const { fullVolts } = pack.cell;
  if (!agesFull(pack.cell)) return [];
  const table = cellTable(pack.cell);
  const choices = [fullVolts, fullVolts - 0.05, fullVolts - 0.1].map((volts, k): SchoolChoice => {
    const soc = Number(Math.min(1, table.socAt(volts)).toFixed(4));
    const start: Edit = { op: 'replace', path: ['pack', 'startSoc'], value: soc };
    const setting = charging && settingTo(charging, Number((pack.series * volts).toFixed(3)));
    const edits: Edit[] = [start, ...(setting?.edits ?? [])];
    const longer = timesLonger(fullVolts, volts);
    return {
      id: volts.toFixed(2),
      name: V(volts),
      says: [
        'The maker’s full volts: all the charge the record states.',
        'Half-way: most of the charge, a fixed charger that drifts stays below the limit.',
        'A tenth below: for packs that stand full, on mains or on the shelf.',
      ][k]!,
      hours: hoursOf(doc, { startSoc: soc }),
      wear:
        k === 0 ? 'life as the maker states it' : `about ${longer.toFixed(1)} times the life standing full`,
      edits,
      now: near(pack.startSoc, soc) || (k === 0 && pack.startSoc >= soc),
    };
  });
  return [
    {
      id: 'trim',
      question: 'How full to charge each cell',
      choices,
      usual: choices[0]!.id,
      because:
        'The record’s capacity is stated from there, and what the thread must last is asked of a full pack.',
    },
  ];
}

/** An ampere for every cell that one does not know, or half its capacity an hour. Common practice, no source. */
function rate(doc: ThreadDocument): School[] {
  const { charging, pack } = doc;
  const { control } = charging ?? {};
  if (!charging || !control || control.sense !== 'output') return [];
  const { cell, parallel } = pack;
  const ohms = cell.r0.ohms[cell.r0.ohms.length >> 1]!;
  const usualRate = 0.5 * cell.capacityAh;
  const options = [
    { id: '1A', name: '1 A a cell', amps: 1, says: 'For salvaged cells: gentle whatever they once were.' },
    {
      id: '0.5C',
      name: '0.5 C',
      amps: usualRate,
      says: 'What sheets call standard charge: half the capacity an hour.',
    },
  ];
  const hours = hoursOf(doc);
  const choices = options.map(({ id, name, amps, says }): SchoolChoice => {
    const current = Number((amps * parallel).toPrecision(4));
    const { programming, ...rest } = control;
    void programming;
    const edit: Edit = { op: 'replace', path: ['charging', 'control'], value: { ...rest, current } };
    const filled = charge({ ...doc, charging: { ...charging, control: { ...rest, current } } });
    const took = endsFull(filled.end.reason)
      ? `${(filled.end.time / SECONDS_PER_HOUR).toFixed(1)} h to full`
      : 'does not end full';
    const c = amps / cell.capacityAh;
    return {
      id,
      name,
      says,
      hours,
      wear: `${took}; ${c.toFixed(2)} C, ${(1000 * amps * amps * ohms).toFixed(0)} mW of heat in a cell`,
      edits: [edit],
      now: near(control.current, current),
    };
  });
  const salvaged = (doc.graded?.length ?? 0) > 0;
  return [
    {
      id: 'rate',
      question: 'How fast to charge',
      choices,
      usual: salvaged ? '1A' : '0.5C',
      because: salvaged
        ? 'Cells are being graded: what they were rated for once is not known to hold.'
        : 'The maker states capacity and life for it.',
    },
  ];
}

function cutoff(doc: ThreadDocument): School[] {
  const { protection, cell } = doc.pack;
  const { cutoffs } = chemistryOf(cell.chemistry);
  if (!protection || !cutoffs) return [];
  const volts = cutoffs.volts.filter((v) => v >= cell.damageVolts);
  const says = [
    'All there is: the lowest volts most makers allow.',
    'What many boards are set to.',
    'Where the curve has begun to fall: little is left, and the cells rest higher.',
    'Well above the knee: for cells that are to last, or that one does not know.',
  ];
  const choices = volts.map((v, k): SchoolChoice => {
    const other: ThreadDocument = {
      ...doc,
      pack: { ...doc.pack, protection: { ...protection, cutoffVolts: v } },
    };
    const run = answersOf(compile(other));
    const after = idleDraw(compile(other, { startSoc: Math.max(0.001, run.socAtUseful) }));
    const days = after.hoursToDamage / 24;
    return {
      id: String(v),
      name: V(v),
      says: says[k + says.length - volts.length] ?? says[k]!,
      hours: run.usefulEnd.time / SECONDS_PER_HOUR,
      wear:
        days < 3650
          ? `stands ${days < 2 ? `${(24 * days).toFixed(0)} h` : `${days.toFixed(0)} days`} after it stops before cells are harmed`
          : 'stands for years after it stops',
      edits: [{ op: 'replace', path: ['pack', 'protection', 'cutoffVolts'], value: v }],
      now: near(protection.cutoffVolts, v),
    };
  });
  const usual = choices.find((c) => c.id === String(cutoffs.usual)) ?? choices.at(-1)!;
  return [
    {
      id: 'cutoff',
      question: 'Where to stop each cell',
      choices,
      usual: usual.id,
      because:
        'Below it little charge is left, and what a board still draws has longest before it harms cells.',
    },
  ];
}

/** Rated capacity over the mean current, or what the run-down finds. */
function capacity(doc: ThreadDocument): School[] {
  const { cell, parallel, startSoc } = doc.pack;
  const run = answersOf(compile(doc));
  const seconds = run.usefulEnd.time;
  if (!(seconds > 0)) return [];
  const hours = seconds / SECONDS_PER_HOUR;
  // Mean current of the run: what a person with a meter would divide by.
  const amps = (cell.capacityAh * parallel * (startSoc - run.socAtUseful)) / hours;
  if (!(amps > 0)) return [];
  const rated = (cell.capacityAh * parallel * startSoc) / amps;
  return [
    {
      id: 'capacity',
      question: 'Whose capacity to count on',
      choices: [
        {
          id: 'own',
          name: 'at the load’s own rate',
          says: 'The run-down: what cells give at this draw down to where the path stops.',
          hours,
          wear: 'nothing: a way to reckon',
          edits: [],
          now: true,
        },
        {
          id: 'rated',
          name: 'at 0.2 C, as rated',
          says: 'The record’s ampere-hours over the mean current, as on a label.',
          hours: rated,
          wear: `${rated > hours ? 'promises' : 'hides'} ${Math.abs(100 * (rated / hours - 1)).toFixed(0)} % ${rated > hours ? 'more' : 'less'} than the run-down`,
          edits: [],
          now: false,
        },
      ],
      usual: 'own',
      because: 'Drop-out, sag and cut-off decide how much of the rated charge is ever used.',
    },
  ];
}

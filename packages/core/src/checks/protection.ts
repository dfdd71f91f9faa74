import { FUSE_CLASSES, meltsWithin, PULSE_SHARE, usualMelting } from '../conductors/fuse.ts';
import { Fuse, Protection } from '../model/pack.ts';
import { readingOf } from '../run/reading/reading.ts';
import type { RunResult } from '../run/account/result.ts';
import { simulate } from '../run/rundown.ts';
import { ROW } from '../run/account/series.ts';
import { formatDuration, formatQuantity } from '../units/formatQuantity.ts';
import type { CheckContext } from './context.ts';
import { above } from './current.ts';
import type { Said } from './finding.ts';
import { offerNumber, upToTwoDigits } from './offer.ts';

const A = (a: number) => formatQuantity(a, 'A');
const V = (v: number) => formatQuantity(v, 'V');
const S = (s: number) => formatQuantity(s, 's', 3);

/** Boards and fuses: what opens them, and what it takes to close them again. */
export function protection(c: CheckContext): Said[] {
  return [...trip(c), ...wakeUp(c), ...recloses(c), ...fuse(c)];
}

/** Share of the trip current from which little room is left. */
const TRIP_SHARE = 0.7;

function trip(c: CheckContext): Said[] {
  const { protection: board } = c.doc.pack;
  if (!board) return [];
  const { most, mostRow } = c.reading.extremes(c.reading.count > 0 ? ROW.packAmps : 0);
  const { reason } = c.run.deadEnd;
  const tripped = reason === 'trip' || reason === 'short';
  const short = reason === 'short';
  const limit = short ? board.shortCurrent! : board.tripCurrent;
  const share = most / limit;
  if (!tripped && share < TRIP_SHARE) return [];
  // What is over within the delay does not trip.
  const passes = !tripped && share > 1;
  // After a trip the current further down is not known: the same thread behind a board that never trips tells.
  const free = tripped ? withoutTrip(c) : undefined;
  const needed = free ? free.worstCell.amps * c.doc.pack.parallel : most;
  const wanted = upToTwoDigits(1.6 * Math.max(needed, tripped ? limit : 0));
  const delay = (short ? board.shortDelay : board.tripDelay) ?? 0;
  const why = peakWords(c, tripped ? c.reading.count - 1 : mostRow);
  const title = tripped
    ? `Protection trips at ${A(limit)}${delay > 0 ? ` after ${S(delay)}` : ''} and cuts everything off`
    : passes
      ? `Peaks of ${A(most)} pass the board's ${A(limit)}, since they are over within its ${S(delay)}`
      : `Protection trips at ${A(limit)}, the run draws ${A(most)}`;
  const room = c.doc.loads.some((l) => l.peaks?.length) ? 'room' : 'room, before any peak or inrush';
  return [
    {
      id: 'trip:protection',
      severity: tripped ? 'fails' : 'tight',
      element: 'protection',
      title,
      reason: free
        ? `${why || largestLoad(c, free, limit)}Up to ${A(needed)} would flow.${releaseWords(board)}`
        : passes
          ? `${why}A peak that lasts a little longer, or a cold cell that sags further, opens it.`
          : `${Math.round((1 - share) * 100)} % ${room}. Cold cells sag further and draw more.`,
      ...(tripped ? { from: c.run.deadEnd.time } : above(c, ROW.packAmps, TRIP_SHARE * limit)),
      excess: Math.max(share, needed / limit),
      ...offerNumber(
        Protection,
        ['pack', 'protection', short ? 'shortCurrent' : 'tripCurrent'],
        wanted,
        `Use a board that trips at ${A(wanted)}`,
      ),
    },
  ];
}

/** “Pump is at its peak then. ” where a load is. */
function peakWords(c: CheckContext, row: number): string {
  const { peaks } = c.doings.words(row);
  const names = peaks.map((id) => c.doc.loads.find((l) => l.id === id)!.name);
  return names.length > 0
    ? `${names.join(' and ')} ${names.length > 1 ? 'are at their peaks' : 'is at its peak'} then. `
    : '';
}

const RELEASE_WORDS: Readonly<Record<NonNullable<Protection['release']>, string>> = {
  unload: ' It closes again once the load is taken off.',
  charger: ' Only a charger closes it again.',
  time: ' It closes again by itself after a while, and trips again.',
};

function releaseWords({ release }: Protection): string {
  return release ? RELEASE_WORDS[release] : '';
}

/** The same thread behind a board that never trips. */
function withoutTrip(c: CheckContext): RunResult {
  const { shortCurrent, ...board } = c.doc.pack.protection!;
  void shortCurrent;
  const free = { ...board, tripCurrent: Infinity };
  return simulate({ ...c.doc, pack: { ...c.doc.pack, protection: free } });
}

/**
 * “Pump alone takes 4 A. ” of the load that draws the largest share of the pack's current.
 * @param free the run without the trip @param limit [A] that trips
 */
function largestLoad(c: CheckContext, free: RunResult, limit: number): string {
  const reading = readingOf(free);
  const { time } = c.run.deadEnd;
  const row =
    reading.firstRow((r) => reading.time(r) >= time && reading.at(r, ROW.packAmps) > limit) ??
    (reading.count > 0 ? reading.extremes(ROW.packAmps).mostRow : 0);
  const asked = c.doc.loads
    .map((load, l) => ({
      load,
      watts: reading.loadWatts(row, l),
      amps: reading.at(row, reading.load(l, 'amps')),
    }))
    .sort((a, b) => b.watts - a.watts)[0];
  if (!asked || !(asked.watts > 0)) {
    const named = c.doc.loads.find((l) => l.draw === 'current' && l.from === 'pack');
    return named ? `${named.name} alone takes ${A(named.current!)}. ` : '';
  }
  return `${asked.load.name} alone takes ${A(asked.amps)}, ${formatQuantity(asked.watts, 'W')}. `;
}

/** A board that must be woken: after the cells are put in, and after it has opened. */
function wakeUp(c: CheckContext): Said[] {
  const { protection: board } = c.doc.pack;
  if (!board?.wakeUp) return [];
  const opened = ['trip', 'short', 'cutoff'].includes(c.run.deadEnd.reason);
  return [
    {
      id: 'wake-up:protection',
      severity: 'note',
      element: 'protection',
      title: 'The board gives nothing until it is woken',
      reason: `Once the cells are in, connect a charger for a moment or press its button; the same ${opened ? 'after this run, which ends with it open' : 'after it has opened'}.`,
    },
  ];
}

/** A cut-off whose release lies below the volts at which the cells rest: the board goes off and on. */
function recloses(c: CheckContext): Said[] {
  const release = c.doc.pack.protection?.releaseVolts;
  if (release === undefined || c.run.deadEnd.reason !== 'cutoff' || c.reading.count === 0) return [];
  const rest = c.reading.at(c.reading.count - 1, ROW.restVolts);
  if (rest <= release) return [];
  return [
    {
      id: 'release:protection',
      severity: 'tight',
      element: 'protection',
      title: `After its cut-off the board closes again, and opens again`,
      reason: `Without load the cells come back to ${V(rest)}, above the ${V(release)} at which it closes: whatever starts then is cut off at once. A load that stays off, or a higher release, stops it.`,
      from: c.run.deadEnd.time,
    },
  ];
}

/** Common practice, no source: run a fuse at no more than three quarters of its rating. */
const FUSE_SHARE = 0.75;
/** [s] up to which a peak is judged by its i²t. */
const SHORT_PEAK = 1;

function fuse(c: CheckContext): Said[] {
  const { fuse: own } = c.doc.pack;
  if (!own) return [];
  const { most, pulses } = fuseCurrents(c);
  const melting = own.meltingI2t ?? usualMelting(own.rating);
  const found: Said[] = [];
  const worst = pulses.sort((a, b) => b.i2t - a.i2t)[0];
  if (worst && worst.i2t > PULSE_SHARE * melting) {
    const rating = upToTwoDigits(own.rating * Math.sqrt(worst.i2t / (PULSE_SHARE * melting)));
    const melts = worst.i2t > melting;
    found.push({
      id: 'fuse-pulse:fuse',
      severity: melts ? 'fails' : 'tight',
      element: 'fuse',
      title: `${worst.name} puts ${formatQuantity(worst.i2t, 'A²s', 3)} through the fuse at each peak`,
      reason: `${A(worst.amps)} for ${S(worst.seconds)}; it melts at ${formatQuantity(melting, 'A²s', 3)}${own.meltingI2t === undefined ? ' if it is of the usual kind' : ''}${melts ? '' : ', and peaks time and again wear it down from about a third of that'}.`,
      excess: worst.i2t / (PULSE_SHARE * melting),
      ...(own.meltingI2t === undefined
        ? offerNumber(Fuse, ['pack', 'fuse', 'rating'], rating, `Use ${A(rating)}, if the wire stands it`)
        : {}),
    });
  }
  const share = most / own.rating;
  if (share <= FUSE_SHARE) return found;
  const over = share > 1;
  const rating = upToTwoDigits(most / FUSE_SHARE);
  found.push({
    id: 'fuse:fuse',
    severity: over ? 'fails' : 'tight',
    element: 'fuse',
    title: over
      ? `The run draws ${A(most)} through a ${A(own.rating)} fuse`
      : `The fuse carries ${Math.round(100 * share)} % of its rating`,
    reason: over
      ? `At ${Math.round(100 * share)} % of its rating ${meltingWords(share)}.`
      : 'Fuses carried above three quarters of their rating age and open early.',
    ...above(c, ROW.packAmps, (over ? 1 : FUSE_SHARE) * own.rating),
    excess: share,
    ...offerNumber(Fuse, ['pack', 'fuse', 'rating'], rating, `Use ${A(rating)}, if the wire stands it`),
  });
  return found;
}

interface Pulse {
  name: string;
  /** [A] [s] [A²·s] */
  amps: number;
  seconds: number;
  i2t: number;
}

/** [A] most that flows for long, and the short peaks. */
function fuseCurrents(c: CheckContext): { most: number; pulses: Pulse[] } {
  const { reading, doings, doc } = c;
  let most = 0;
  const pulses = new Map<string, Pulse>();
  for (let row = 0; row <= reading.last; row++) {
    const amps = reading.at(row, ROW.packAmps);
    const at = doings.at(row);
    const short = at && at.peaks.length > 0 && at.seconds <= SHORT_PEAK;
    if (!short) most = Math.max(most, amps);
    else {
      const name = at.peaks.map((l) => doc.loads[l]!.name).join(' with ');
      const i2t = amps * amps * at.seconds;
      if (!(i2t <= (pulses.get(name)?.i2t ?? 0))) pulses.set(name, { name, amps, seconds: at.seconds, i2t });
    }
  }
  return { most, pulses: [...pulses.values()] };
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

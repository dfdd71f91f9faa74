import type { PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { create } from 'zustand';
import { useLive } from '../../document/live.ts';
import {
  Instrument,
  type Identity,
  type Limits,
  type Quantity,
  type Role,
} from '../../instruments/driver.ts';
import { InstrumentError } from '../../instruments/line.ts';
import { openSerial } from '../../instruments/serial.ts';
import { makeStandIns, openSocket } from '../../instruments/socket.ts';
import { beginRecording, keepRows, type Kept } from '../../storage/recordings.ts';

/** Where leads touch, as the stand-ins name it. */
export type Place = string;

/** An instrument that is connected. */
export interface Connection {
  role: Role;
  via: 'simulated' | 'serial';
  identity: Identity;
  place: Place;
  on: boolean;
  /** what it is set to */
  set: Partial<Record<Quantity, number>>;
  trouble?: string;
}

/** What is going on at the bench. */
interface Session {
  threadId: string | undefined;
  standIns: { id: string; seed: number; faulty: boolean } | undefined;
  speed: number;
  connections: Partial<Record<Role, Connection>>;
  loads: string;
  recording: { id: string; rows: number; started: number } | undefined;
  busy: string | undefined;
  trouble: string | undefined;
}

/** [V] [A] as they come, many times a second: apart from the rest, so that only what shows them is drawn anew. */
export const useReadings = create<Partial<Record<Role, Partial<Record<Quantity, number>>>>>(() => ({}));

/** Rows of what is being recorded, and how many: the array grows, the number tells. */
export const useRecorded = create<{ rows: [number, number, number][]; count: number }>(() => ({
  rows: [],
  count: 0,
}));

const NOTHING: Omit<Session, 'speed'> = {
  threadId: undefined,
  standIns: undefined,
  connections: {},
  loads: 'off',
  recording: undefined,
  busy: undefined,
  trouble: undefined,
};
/** Times real time the stand-ins go to begin with: hours become half a minute. */
const SPEED = 600;

export const useBench = create<Session>(() => ({ ...NOTHING, speed: SPEED }));

/** [ms] between readings: twenty a second. */
const EVERY = 50;
/** [ms] until what was changed on a bench stands. */
const SETTLES = 60;
/** Rows after which a recording without volts or current is over, and rows a piece of it has. */
const OVER = 12;
const PIECE = 20;

const lines = new Map<Role | 'hands', Instrument>();
const streams = new Map<Role, () => void>();

/** The driver of what is connected. @throws InstrumentError where it is not */
export function driver(role: Role | 'hands'): Instrument {
  const found = lines.get(role);
  if (!found || found.closed) throw new InstrumentError('lost', `Connect the ${role} first.`);
  return found;
}

const wait = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const { setState: put, getState: now } = useBench;

function change(role: Role, part: Partial<Connection>): void {
  const { connections } = now();
  const own = connections[role];
  if (!own) return;
  put({ connections: { ...connections, [role]: { ...own, ...part } } });
  tellFrame();
}

/** What is on goes to the frame, which shows a stop whatever the view. */
function tellFrame(): void {
  const { connections, loads, recording } = now();
  const on = Object.values(connections).filter((c) => c.on);
  const words = [
    ...on.map(
      (c) => `${WORD[c.role]} on${c.set.amps === undefined ? '' : `, ${formatQuantity(c.set.amps, 'A', 3)}`}`,
    ),
    ...(loads === 'off' ? [] : ['loads on']),
    ...(recording ? ['recording'] : []),
  ].join(' · ');
  useLive.setState({ words: words || undefined, stop: () => void stopAll() });
}

export const WORD: Readonly<Record<Role, string>> = {
  meter: 'Meter',
  load: 'Load',
  supply: 'Supply',
  charger: 'Charger',
};

/** Every output off at once, recordings ended; nothing recorded is lost. */
export async function stopAll(): Promise<void> {
  for (const instrument of lines.values()) void instrument.stop();
  for (const role of ['load', 'supply', 'charger'] as const) change(role, { on: false });
  put({ loads: 'off', busy: undefined });
  ending = true;
  await endRecording();
  tellFrame();
}

/** Connect the stand-ins, each by a line of its own. @param seed of the hidden truth */
export async function connectStandIns(
  threadId: string,
  doc: ThreadDocument,
  { seed, faulty }: { seed: number; faulty: boolean },
): Promise<void> {
  await disconnect();
  put({ busy: 'Connecting', trouble: undefined, threadId });
  try {
    const { speed } = now();
    const { readings, curves, graded, ...thread } = doc;
    void [readings, curves, graded];
    const id = await makeStandIns({ thread, seed, faulty, speed });
    put({ standIns: { id, seed, faulty } });
    const roles: Role[] = doc.charging ? ['meter', 'load', 'supply', 'charger'] : ['meter', 'load', 'supply'];
    lines.set('hands', new Instrument('hands', await openSocket(`/standins/${id}/hands`)));
    for (const role of roles)
      await joined(
        role,
        'simulated',
        new Instrument(role, await openSocket(`/standins/${id}/${role}`), limitsOf(doc)),
      );
  } catch (error) {
    put({ trouble: (error as Error).message });
    await disconnect();
  }
  put({ busy: undefined });
}

/** [V] [A] that nothing of a thread may be given: the pack full and a twentieth, what its cells may give. Common practice. */
export function limitsOf({ pack, charging }: ThreadDocument): Limits {
  const { cell, series, parallel, protection } = pack;
  const volts = 1.05 * series * cell.fullVolts;
  const rated = cell.dischargeRate * cell.capacityAh * parallel;
  return {
    volts: Number(Math.max(volts, charging ? 30 : 0).toFixed(1)),
    amps: Number(Math.min(rated, protection?.tripCurrent ?? Infinity).toFixed(2)),
  };
}

/** Connect one over a serial port that the person chooses. */
export async function connectSerial(
  threadId: string,
  doc: ThreadDocument,
  role: Role,
  baud: number,
): Promise<void> {
  put({ trouble: undefined, threadId });
  try {
    const line = await openSerial(baud);
    if (!line) return;
    await lines.get(role)?.close();
    await joined(role, 'serial', new Instrument(role, line, limitsOf(doc)));
  } catch (error) {
    put({ trouble: (error as Error).message });
  }
}

async function joined(role: Role, via: Connection['via'], instrument: Instrument): Promise<void> {
  const identity = await instrument.identify();
  lines.set(role, instrument);
  const { connections } = now();
  put({
    connections: { ...connections, [role]: { role, via, identity, place: 'pack', on: false, set: {} } },
  });
  streams.get(role)?.();
  streams.set(
    role,
    instrument.stream(
      EVERY,
      (what, value) => {
        const before = useReadings.getState()[role];
        useReadings.setState({ [role]: { ...before, [what]: value } });
        if (now().connections[role]?.trouble) change(role, { trouble: undefined });
      },
      (error) => (error.trouble === 'lost' ? lost(role) : change(role, { trouble: error.message })),
    ),
  );
}

/** A line is gone: what it had on is off, what was recorded is kept. */
function lost(role: Role): void {
  streams.get(role)?.();
  change(role, { on: false, trouble: 'The connection is gone; what it had on is off. Connect it again.' });
  useReadings.setState({ [role]: {} });
  if (role === 'meter') void stopAll();
}

/** End every line. */
export async function disconnect(): Promise<void> {
  await stopAll();
  for (const end of streams.values()) end();
  streams.clear();
  await Promise.all([...lines.values()].map((i) => i.close()));
  lines.clear();
  useReadings.setState({ meter: {}, load: {}, supply: {}, charger: {} });
  put({ ...NOTHING, trouble: now().trouble });
  tellFrame();
}

/** Do something with instruments; what goes wrong is said. @returns whether it went well */
async function attempt(busy: string, work: () => Promise<void>): Promise<boolean> {
  put({ busy, trouble: undefined });
  try {
    await work();
    return true;
  } catch (error) {
    put({ trouble: (error as Error).message });
    return false;
  } finally {
    if (now().busy === busy) put({ busy: undefined });
  }
}

export const setValue = (role: Role, what: Quantity, value: number) =>
  attempt('Setting', async () => {
    await driver(role).set(what, value);
    change(role, { set: { ...now().connections[role]?.set, [what]: value } });
  });

export const setOutput = (role: Role, on: boolean) =>
  attempt('Switching', async () => {
    await driver(role).output(on);
    change(role, { on });
  });

/** Put leads somewhere. Those of a real instrument a person puts there: it is only noted. */
export const putLeads = (role: Role, place: Place) =>
  attempt('Moving leads', async () => {
    if (now().connections[role]?.via === 'simulated') await driver(role).tell(`LEADS ${place}`);
    change(role, { place });
  });

/** Switch the thread's own loads: off, by its programme, or held in a mode. */
export const switchLoads = (loads: string) =>
  attempt('Switching', async () => {
    await driver('hands').tell(`LOADS ${loads}`);
    put({ loads });
    tellFrame();
  });

export const fillPack = () => attempt('Charging the pack', () => driver('hands').tell('PACK:FILL'));

export const setSpeed = (speed: number) =>
  attempt('Setting', async () => {
    put({ speed });
    if (lines.has('hands')) await driver('hands').tell(`SPEED ${speed}`);
  });

/** Places of a thread in the words of the stand-ins, and in a person's. */
export function placesOf(doc: ThreadDocument): { place: Place; words: string }[] {
  return [
    { place: 'pack', words: 'Pack' },
    ...(doc.pack.series > 1 ? [{ place: 'cell', words: 'One group' }] : []),
    ...doc.stages.map((s) => ({ place: `rail:${s.id}`, words: s.name })),
    ...(doc.charging
      ? [
          { place: 'source', words: doc.charging.source.name },
          { place: 'charger', words: 'Charger' },
        ]
      : []),
  ];
}

/** Where the red lead of a step goes. */
export function placeOf({ probes: [red], id }: PlanStep): Place | undefined {
  if (!red) return undefined;
  if (red.at === 'stage') return `rail:${red.id}`;
  if (red.at === 'minus') return undefined;
  return id === 'open:cell' ? 'cell' : red.at;
}

/** Steps that a stand-in can be asked for at once: those that need no watching. */
export function canRead({ id, instrument }: PlanStep): boolean {
  const [what] = id.split(':');
  return (
    instrument !== 'eyes' &&
    instrument !== 'clock' &&
    !['dip', 'cutoff'].includes(what!) &&
    id !== 'charge:end'
  );
}

/** What was read, with the accuracy the instrument states. */
export interface Taken {
  value: number;
  accuracy?: number;
  instrument: string;
}

/** Do a step of the plan with what is connected: leads, loads and charger as it says, one reading, everything off again. */
export async function readStep(doc: ThreadDocument, step: PlanStep): Promise<Taken | undefined> {
  let taken: Taken | undefined;
  await attempt(`Reading ${step.title}`, async () => {
    const meter = driver('meter');
    const { via, identity } = now().connections.meter!;
    const what: Quantity = step.instrument === 'amps' ? 'amps' : 'volts';
    const simulated = via === 'simulated';
    if (simulated) await arrange(doc, step);
    const value = await meter.read(what);
    const accuracy = simulated ? await accuracyOf(meter, what) : undefined;
    if (simulated) await putBack(step);
    taken = {
      value: Math.abs(value),
      instrument: `${identity.model} ${identity.serial}`.slice(0, 60),
      ...(accuracy === undefined ? {} : { accuracy }),
    };
  });
  return taken;
}

async function accuracyOf(meter: Instrument, what: Quantity): Promise<number> {
  await meter.tell(`CONF:${what === 'amps' ? 'CURR' : 'VOLT'}`);
  return meter.number('ACC?');
}

async function arrange(doc: ThreadDocument, step: PlanStep): Promise<void> {
  const hands = driver('hands');
  const place = placeOf(step);
  if (place) {
    await driver('meter').tell(`LEADS ${place}`);
    change('meter', { place });
  }
  const [what, ...rest] = step.id.split(':');
  const under = ['draw', 'sag', 'rail'].includes(what!);
  await hands.tell('LOADS off');
  // A reading takes a second, not minutes of the bench's own time: cells sink on under a load.
  await hands.tell('SPEED 1');
  if (under || what === 'open' || what === 'set' || what === 'idle') await hands.tell('PACK:FILL');
  if (under) await hands.tell(`LOADS ${rest.at(-1) || 'on'}`);
  if (step.id === 'source:half') {
    const load = driver('load');
    const limit = doc.charging!.source;
    await load.tell('LEADS source');
    change('load', { place: 'source' });
    await load.set('amps', halfOf(limit));
    await load.output(true);
  }
  if (step.id === 'charge:current') {
    await hands.tell(`PACK:AT ${HALF}`);
    await driver('charger').output(true);
  }
  await wait(SETTLES);
}

/** State of charge at which the charge current is read. */
const HALF = 0.5;

/** [A] Half of what a source gives, as the plan says it. */
function halfOf(source: NonNullable<ThreadDocument['charging']>['source']): number {
  const most = 'limit' in source ? source.limit : Math.max(...source.offers.map((o) => o.amps));
  return Number((most / 2).toPrecision(2));
}

async function putBack(step: PlanStep): Promise<void> {
  await driver('hands').tell('LOADS off');
  if (step.id === 'source:half') await driver('load').output(false);
  if (step.id === 'charge:current') await driver('charger').output(false);
  await driver('hands').tell(`SPEED ${now().speed}`);
}

/** Turn a stage's set point to where it belongs. */
export const trimStage = (id: string, volts: number) =>
  attempt('Trimming', () => driver('hands').tell(`TRIM ${id} ${volts}`));

let ending = false;

/**
 * Record a run-down with the loads on until nothing flows any more, or until it is stopped.
 * @returns what was recorded, where it came to its end by itself
 */
export async function recordRun(threadId: string): Promise<Kept | undefined> {
  let whole: Kept | undefined;
  await attempt('Recording', async () => {
    const meter = driver('meter');
    const simulated = now().connections.meter!.via === 'simulated';
    if (simulated) {
      await driver('hands').tell('LOADS off');
      await driver('hands').tell('PACK:FILL');
      await meter.tell('LEADS pack');
      change('meter', { place: 'pack' });
    }
    const started = Date.now();
    const id = await beginRecording(threadId, started);
    ending = false;
    useRecorded.setState({ rows: [], count: 0 });
    put({ recording: { id, rows: 0, started } });
    tellFrame();
    const clock = async () => (simulated ? meter.number('TIME?') : (Date.now() - started) / 1000);
    if (simulated) await switchOn();
    const from = await clock();
    await rows(id, meter, clock, from);
    if (!ending) {
      const recording = { id, threadId, startedAt: started };
      whole = { recording, rows: [...useRecorded.getState().rows] };
    }
    if (simulated && !meter.closed) await driver('hands').tell('LOADS off');
    put({ loads: 'off' });
  });
  await endRecording();
  return whole;
}

async function switchOn(): Promise<void> {
  await driver('hands').tell('LOADS on');
  put({ loads: 'on' });
  tellFrame();
}

async function rows(
  id: string,
  meter: Instrument,
  clock: () => Promise<number>,
  from: number,
): Promise<void> {
  const recorded = useRecorded.getState().rows;
  let piece: [number, number, number][] = [];
  let part = 0;
  let idle = 0;
  let most = 0;
  const keep = async () => {
    await keepRows(id, part++, piece);
    piece = [];
  };
  try {
    for (let due = performance.now(); !ending && idle < OVER; ) {
      // By the clock, not from when the last one was through; what was missed is not made up for.
      due = Math.max(due + EVERY, performance.now());
      const next = wait(due - performance.now());
      const seconds = (await clock()) - from;
      const [volts, amps] = [await meter.read('volts'), await meter.read('amps')];
      const row: [number, number, number] = [seconds, volts, amps];
      const last = recorded.at(-1);
      if (!last || seconds > last[0]) {
        recorded.push(row);
        piece.push(row);
      }
      most = Math.max(most, amps);
      idle = recorded.length > OVER && amps < 0.02 * most ? idle + 1 : 0;
      useRecorded.setState({ count: recorded.length });
      if (piece.length >= PIECE) await keep();
      await next;
    }
  } finally {
    await keep();
  }
}

/** What was being recorded is over; it waits to be taken. */
async function endRecording(): Promise<void> {
  if (!now().recording) return;
  put({ recording: undefined });
  tellFrame();
  await wait(0);
}

/** A row of a step test, and what was asked for. [V] [A] */
export interface StepRow {
  inputVolts: number;
  inputAmps: number;
  outputVolts: number;
  outputAmps: number;
}

/** Steps of a test, beyond what is claimed: a fifth. */
const STEPS = 9;
const BEYOND = 1.2;

/** Load a stage in steps up to a fifth beyond what is claimed, until it lets go; what it draws at each. */
export async function testStage(
  doc: ThreadDocument,
  stage: { id: string; from: string; outputVolts: number; ownAmps: number },
  most: number,
  onRow: (row: StepRow) => void,
): Promise<boolean> {
  ending = false;
  return attempt(`Loading ${doc.stages.find((s) => s.id === stage.id)?.name}`, async () => {
    const [meter, load, hands] = [driver('meter'), driver('load'), driver('hands')];
    await hands.tell('LOADS off');
    await hands.tell('PACK:FILL');
    // A test takes seconds: not hours of the bench's own time.
    await hands.tell('SPEED 1');
    await load.tell(`LEADS rail:${stage.id}`);
    change('load', { place: `rail:${stage.id}` });
    let base: number | undefined;
    try {
      for (let k = 0; k <= STEPS && !ending; k++) {
        const amps = Number(((k / STEPS) * BEYOND * most).toPrecision(3));
        await load.set('amps', Math.min(amps, load.limits.amps));
        await load.output(amps > 0);
        change('load', { on: amps > 0, set: { amps } });
        await wait(SETTLES);
        const at = async (place: Place, what: Quantity) => {
          await meter.tell(`LEADS ${place}`);
          change('meter', { place });
          return meter.read(what);
        };
        const outputVolts = await at(`rail:${stage.id}`, 'volts');
        const inputVolts =
          stage.from === 'pack' ? await at('pack', 'volts') : await at(`rail:${stage.from}`, 'volts');
        const pack = await at('pack', 'amps');
        // What flows with nothing on it belongs to everything; of that the stage has its own part.
        base ??= pack - stage.ownAmps;
        const gone = outputVolts < 0.5 * stage.outputVolts;
        // What has let go gives nothing: what was asked of it then says at how much.
        const outputAmps = gone ? amps : amps > 0 ? await load.read('amps') : 0;
        onRow({ inputVolts, inputAmps: Math.max(0, pack - base), outputVolts, outputAmps });
        if (gone) break;
      }
    } finally {
      await load.stop();
      change('load', { on: false });
      if (!hands.closed) await hands.tell(`SPEED ${now().speed}`);
    }
  });
}

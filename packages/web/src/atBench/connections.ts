import { ThinnedRows } from '@mile-thread/core/logs';
import { MOST_POINTS, type ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import { create } from 'zustand';
import { useLive } from '../document/live.ts';
import { Instrument, type Identity, type Limits, type Quantity, type Role } from '../instruments/driver.ts';
import { InstrumentError } from '../instruments/line.ts';
import { openSerial } from '../instruments/serial.ts';
import { makeStandIns, openSocket } from '../instruments/socket.ts';

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
  /** it was on when its line went, and nothing says that it is off */
  unreached?: true;
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

/** What stands for the rows of what is being recorded, and how many there have been: the rows change in place, the number tells. */
export const useRecorded = create<{ rows: ThinnedRows; count: number }>(() => ({
  rows: new ThinnedRows(MOST_POINTS),
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
export const EVERY = 50;
/** [ms] until what was changed on a bench stands. */
export const SETTLES = 60;

const lines = new Map<Role | 'hands', Instrument>();
const streams = new Map<Role, () => void>();

/** The driver of what is connected. @throws InstrumentError where it is not */
export function driver(role: Role | 'hands'): Instrument {
  const found = lines.get(role);
  if (!found || found.closed) throw new InstrumentError('lost', `Connect the ${role} first.`);
  return found;
}

export const wait = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));
const { setState: put, getState: now } = useBench;

/** Something of a connection is otherwise now. */
export function change(role: Role, part: Partial<Connection>): void {
  const { connections } = now();
  const own = connections[role];
  if (!own) return;
  put({ connections: { ...connections, [role]: { ...own, ...part } } });
  tellFrame();
}

/** What is on goes to the frame, which shows a stop whatever the view. */
export function tellFrame(): void {
  const { connections, loads, recording } = now();
  const all = Object.values(connections);
  const on = all.filter((c) => c.on);
  const unreached = all.filter((c) => c.unreached).map((c) => `${WORD[c.role]} may still be on`);
  const words = [
    ...on.map(
      (c) => `${WORD[c.role]} on${c.set.amps === undefined ? '' : `, ${formatQuantity(c.set.amps, 'A', 3)}`}`,
    ),
    ...(loads === 'off' ? [] : ['loads on']),
    ...(recording ? ['recording'] : []),
  ].join(' · ');
  useLive.setState({
    words: words || undefined,
    unreached: unreached.length > 0 ? `${unreached.join(', ')}: switch it off by hand` : undefined,
    stop: () => void stopAll(),
    seen: switchedOffByHand,
  });
}

/** A person has switched off what no line reaches. */
function switchedOffByHand(): void {
  const { connections } = now();
  const seen = Object.entries(connections).map(([role, c]) => {
    const { unreached, ...rest } = c;
    void unreached;
    return [role, rest];
  });
  put({ connections: Object.fromEntries(seen) });
  tellFrame();
}

export const WORD: Readonly<Record<Role, string>> = {
  meter: 'Meter',
  load: 'Load',
  supply: 'Supply',
  charger: 'Charger',
};

/** What runs by itself, a recording or a test, and whether it is to end. */
export const running = { ending: false };

/** Every output off at once, recordings ended; nothing recorded is lost. */
export async function stopAll(): Promise<void> {
  for (const instrument of lines.values()) void instrument.stop();
  for (const role of ['load', 'supply', 'charger'] as const) change(role, { on: false });
  put({ loads: 'off', busy: undefined });
  running.ending = true;
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
        new Instrument(role, await openSocket(`/standins/${id}/${role}`), packLimits(doc)),
      );
  } catch (error) {
    put({ trouble: (error as Error).message });
    await disconnect();
  }
  put({ busy: undefined });
}

/** [V] [A] that nothing of a thread may be given: the pack full and a twentieth, what its cells may give. Common practice. */
export function packLimits({ pack }: ThreadDocument): Limits {
  const { cell, series, parallel, protection } = pack;
  const volts = 1.05 * series * cell.fullVolts;
  const rated = cell.dischargeRate * cell.capacityAh * parallel;
  return {
    volts: Number(volts.toFixed(1)),
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
    await joined(role, 'serial', new Instrument(role, line, packLimits(doc)));
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
  const instrument = lines.get(role);
  const leftOn = instrument?.leavesOn && now().connections[role]?.on;
  change(role, {
    on: false,
    ...(instrument ? { trouble: instrument.goneWords } : {}),
    ...(leftOn ? { unreached: true } : {}),
  });
  useReadings.setState({ [role]: {} });
  if (role === 'meter') void stopAll();
}

// A page that goes takes off what it had on, as far as it still can: a socket's end does so by itself, a serial port's does not.
globalThis.addEventListener?.('pagehide', () => {
  for (const instrument of lines.values()) void instrument.stop();
});

/** End every line. */
export async function disconnect(): Promise<void> {
  await stopAll();
  for (const end of streams.values()) end();
  streams.clear();
  await Promise.all([...lines.values()].map((i) => i.close()));
  lines.clear();
  useReadings.setState({ meter: {}, load: {}, supply: {}, charger: {} });
  // What no line reaches stays told until somebody has seen to it.
  const unreached = Object.entries(now().connections).filter(([, c]) => c.unreached);
  put({ ...NOTHING, connections: Object.fromEntries(unreached), trouble: now().trouble });
  tellFrame();
}

/** Do something with instruments; what goes wrong is said. @returns whether it went well */
export async function attempt(busy: string, work: () => Promise<void>): Promise<boolean> {
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

/** What was being recorded is over; it waits to be taken. */
export async function endRecording(): Promise<void> {
  if (!now().recording) return;
  put({ recording: undefined });
  tellFrame();
  await wait(0);
}

import { demoThreads } from '@mile-thread/core';
import { planOf } from '@mile-thread/core/bench';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { connectStandIns, disconnect, running, stopAll, useBench } from './connections.ts';
import { putLeads, setOutput, setValue, switchLoads } from './hands.ts';
import { testStage, type StepRow } from './loadSteps.ts';
import { readStep } from './readStep.ts';

/** A bench played by hand: 8 V of a pack, a stage of 5 V that lets go above 2 A and takes what it gives by 80 %. */
const bench = {
  told: [] as string[],
  amps: 0,
  on: false,
  leads: 'pack',
  /** [V] that the meter reads on the pack; what refuses to answer */
  volts: 8,
  mute: '',
};

function answer(role: string, text: string): string | undefined {
  const [command = '', question] = text.trim().split('\n');
  if (bench.mute && command.startsWith(bench.mute)) return 'OVERLOAD';
  if (command === '*IDN?') return `Bench,${role},1,1`;
  if (command === 'ACC?') return '0.002';
  if (command.startsWith('MEAS')) return String(measured(role, command.includes('CURR')));
  bench.told.push(`${role} ${command}`);
  if (command.startsWith('LEADS') && role === 'meter') bench.leads = command.slice(6);
  if (command.startsWith('SOUR:CURR')) bench.amps = Number(command.slice(10));
  if (command.startsWith('INP')) bench.on = command === 'INP ON';
  return question === 'SYST:ERR?' ? '0,"No error"' : undefined;
}

function measured(role: string, current: boolean): number {
  const gone = bench.on && bench.amps > 2;
  const out = bench.on ? (gone ? 0 : bench.amps) : 0;
  if (role === 'load') return out;
  if (bench.leads === 'pack') return current ? 0.01 + (5 * out) / 0.8 / bench.volts : bench.volts;
  return gone ? 0.3 : 5;
}

/** A socket of the browser whose other end is that bench. */
class Socket {
  static readonly OPEN = 1;
  readonly readyState = 1;
  readonly #role: string;
  onopen?: () => void;
  onmessage?: (event: { data: string }) => void;
  onclose?: () => void;

  constructor(path: string) {
    this.#role = path.split('/').at(-1)!;
    queueMicrotask(() => this.onopen?.());
  }
  send(text: string) {
    const found = answer(this.#role, text);
    if (found !== undefined) queueMicrotask(() => this.onmessage?.({ data: `${found}\n` }));
  }
  close() {
    this.onclose?.();
  }
}

// What a browser has, not a module of ours: files of one worker share their modules, and another may have read it before.
beforeAll(() => {
  vi.stubGlobal('WebSocket', Socket);
  vi.stubGlobal('location', { protocol: 'http:', host: 'bench' });
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ id: '1' })));
});
afterAll(() => void vi.unstubAllGlobals());

const doc = demoThreads().find((d) => d.name === 'Library door lock')!;
const step = (id: string) => planOf(doc).find((s) => s.id === id)!;
/** What was told, without what every step begins and ends with. */
const told = (of: string) => bench.told.filter((t) => t.startsWith(of)).map((t) => t.slice(of.length + 1));

beforeEach(async () => {
  Object.assign(bench, { told: [], amps: 0, on: false, leads: 'pack', volts: 8, mute: '' });
  await connectStandIns('t', doc, { seed: 1, faulty: false });
  bench.told.length = 0;
});
afterEach(() => disconnect());

describe('a step of the plan at the bench', () => {
  it('puts leads and pack as it says, reads with what the meter says of itself, and leaves nothing on', async () => {
    expect(await readStep(doc, step('open:pack'))).toEqual({
      value: 8,
      accuracy: 0.002,
      instrument: 'meter 1',
    });
    expect(told('meter')[0]).toBe('LEADS pack');
    expect(told('hands')).toEqual(['LOADS off', 'SPEED 1', 'PACK:FILL', 'LOADS off', 'SPEED 600']);
    expect(useBench.getState()).toMatchObject({ busy: undefined, trouble: undefined });
  });

  it('with half the source’s current by the load on it, which goes off whatever the reading comes to', async () => {
    bench.mute = 'MEAS:VOLT';
    expect(await readStep(doc, step('source:half'))).toBeUndefined();
    expect(useBench.getState().trouble).toContain('OVERLOAD');
    expect(told('load')).toEqual(['LEADS source', expect.stringMatching(/^SOUR:CURR /), 'INP ON', 'INP OFF']);
    expect(bench.on).toBe(false);
    expect(useBench.getState().connections.load!.on).toBe(false);
  });

  it('refuses what is the wrong way round', async () => {
    bench.volts = -8;
    expect(await readStep(doc, step('open:pack'))).toBeUndefined();
    expect(useBench.getState().trouble).toContain('wrong way round');
  });
});

describe('a stage loaded step by step', () => {
  const stage = { id: doc.stages[0]!.id, from: 'pack', outputVolts: 5, ownAmps: 0.01 };
  const test = async (most: number, onRow: (row: StepRow) => void = () => undefined) => {
    const rows: StepRow[] = [];
    await testStage(doc, stage, most, (row) => {
      rows.push(row);
      onRow(row);
    });
    return rows;
  };

  it('lets go where it does, closed in on from both sides; what it takes is without what flows anyway', async () => {
    const rows = await test(2.5);
    const held = rows.filter((r) => r.outputVolts === 5).map((r) => r.outputAmps);
    const gone = rows.filter((r) => r.outputVolts < 1).map((r) => r.outputAmps);
    expect(Math.max(...held)).toBeLessThanOrEqual(2);
    expect(Math.max(...held)).toBeGreaterThan(1.9);
    expect(Math.min(...gone)).toBeLessThan(2.1);
    const row = rows.find((r) => r.outputAmps > 1 && r.outputVolts === 5)!;
    // Beside what it draws by itself: 5 V out of 8 V by 80 %.
    expect(row.inputAmps).toBeCloseTo(0.01 + (5 * row.outputAmps) / 0.8 / 8, 9);
    expect(bench.on).toBe(false);
  });

  it('never asks for more than the cells may give, and ends where it is stopped', async () => {
    const all = await test(1000);
    const most = doc.pack.cell.dischargeRate * doc.pack.cell.capacityAh * doc.pack.parallel;
    expect(
      Math.max(...told('load').flatMap((t) => (t.startsWith('SOUR') ? [Number(t.slice(10))] : []))),
    ).toBeLessThanOrEqual(most);
    const some = await test(2.5, () => void (running.ending = true));
    expect(some.length).toBeLessThan(all.length);
    expect(some).toHaveLength(1);
    expect(bench.on).toBe(false);
  });
});

it('stop takes off all that is on, and what was told of it', async () => {
  await setValue('load', 'amps', 0.5);
  await setOutput('load', true);
  await switchLoads('on');
  await putLeads('meter', 'cell');
  expect(useBench.getState()).toMatchObject({
    loads: 'on',
    connections: { load: { on: true, set: { amps: 0.5 } }, meter: { place: 'cell' } },
  });
  await stopAll();
  expect(bench.on).toBe(false);
  expect(told('hands').at(-1)).toBe('LOADS off');
  expect(useBench.getState()).toMatchObject({ loads: 'off', connections: { load: { on: false } } });
});

import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { demoThreads } from '@mile-thread/core';
import { partsFor } from '@mile-thread/core/design';
import { encodeThread } from '@mile-thread/core/model';
import { readingOf, ROW, simulate } from '@mile-thread/core/solve';
import { describe, expect, it, vi } from 'vitest';
import { main } from './main.ts';

const bin = fileURLToPath(new URL('../bin/mile.js', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'mile-'));
const doc = demoThreads()[0]!;
const file = join(folder, 'demo.thread.json');
writeFileSync(file, encodeThread(doc));

// Run from another folder: the command must find its own settings.
const spawned = (args: string[], input?: string) =>
  spawnSync(process.execPath, [bin, ...args], { encoding: 'utf8', input, cwd: folder });

/** The same command without a process of its own: what it says and its code. */
async function mile(args: string[]): Promise<{ status: number; stdout: string; stderr: string }> {
  const said = { stdout: '', stderr: '' };
  const spies = (['stdout', 'stderr'] as const).map((name) =>
    vi.spyOn(process[name], 'write').mockImplementation((text) => {
      said[name] += String(text);
      return true;
    }),
  );
  try {
    return { status: await main(args), ...said };
  } finally {
    for (const spy of spies) spy.mockRestore();
  }
}

describe('mile', () => {
  it('run --json says what the core says, from a file and from standard input', () => {
    const out = spawned(['run', file, '--json']);
    expect(out.status).toBe(0);
    const answer = JSON.parse(out.stdout);
    expect(answer.usefulEnd.time).toBe(simulate(doc).usefulEnd.time);
    expect(answer.ledger.closure).toBeLessThan(1e-6);
    expect(spawned(['run', '-', '--json'], encodeThread(doc)).stdout).toBe(out.stdout);
  });

  it('run --csv writes the rows with units in the header', async () => {
    const csv = join(folder, 'out.csv');
    expect((await mile(['run', file, '--csv', csv])).stdout).toContain('reaches the loads');
    const [header, first] = readFileSync(csv, 'utf8').split('\r\n');
    expect(header).toContain('time (s),state of charge,cell (V)');
    expect(header!.split(',').length).toBe(first!.split(',').length);
    expect(first).toContain('buck');
  });

  it('quick says between what it lasts, or why it cannot, and is met as the run is', async () => {
    const { status, stdout } = await mile(['quick', file]);
    expect(status).toBe(0);
    expect(stdout.replaceAll('\u00a0', ' ')).toMatch(/^lasts .+, between .+ and .+; .+ needed\n$/);
    const { earliest, latest } = JSON.parse((await mile(['quick', file, '--json'])).stdout);
    const { time } = simulate(doc).usefulEnd;
    expect(earliest).toBeLessThan(time);
    expect(latest).toBeGreaterThan(time);
    const path = join(folder, 'heavy.thread.json');
    writeFileSync(path, encodeThread({ ...doc, goals: { ...doc.goals, mass: 0.001 } }));
    const heavy = await mile(['quick', path]);
    expect([heavy.status, heavy.stdout]).toEqual([1, expect.stringContaining('Its cells weigh')]);
    expect(JSON.parse((await mile(['quick', path, '--json'])).stdout).kind).toBe('refused');
  });

  it('run --cycle writes one cycle, every step of it, as the run has it there', async () => {
    const sampler = demoThreads().at(-1)!;
    const path = join(folder, 'sampler.thread.json');
    writeFileSync(path, encodeThread(sampler));
    const csv = join(folder, 'cycle.csv');
    expect((await mile(['run', path, '--cycle', '24', '--csv', csv])).status).toBe(0);
    const [header, ...rows] = readFileSync(csv, 'utf8').trim().split('\r\n');
    const at = (name: string) => header!.split(',').indexOf(name);
    const column = (name: string) => rows.map((r) => Number(r.split(',')[at(name)]));
    expect(column('time (s)').at(-1)).toBeCloseTo(2160, 6);
    // The start of the pump is its highest current.
    const amps = column(header!.split(',').find((h) => h.startsWith('pack (A)'))!);
    expect(Math.max(...amps)).toBeCloseTo(amps[0]!, 2);
    const first = column('state of charge');
    const run = readingOf(simulate(sampler));
    expect(first[0]).toBeCloseTo(run.at(run.rowAt(86400), ROW.soc), 6);
    expect((await mile(['run', file, '--cycle', '1'])).stderr).toContain('no programme');
    expect((await mile(['run', path, '--cycle', 'noon'])).status).toBe(2);
    expect((await mile(['check', path, '--cycle', '1'])).status).toBe(2);
    expect((await mile(['run', path])).stdout).toMatch(/by mode, \d+ cycles of 40 wanted, ends in \w+/);
  });

  it('check lists findings; exit codes tell need not met, wrong use and bad files apart', async () => {
    expect((await mile(['check', file])).stdout).toContain('flows with everything off');
    const longer = join(folder, 'longer.thread.json');
    writeFileSync(longer, encodeThread({ ...doc, goals: { hours: 40 } }));
    expect((await mile(['check', longer])).status).toBe(1);
    expect((await mile(['run', longer])).status).toBe(1);
    expect((await mile(['fly', file])).status).toBe(2);
    expect((await mile(['run', file, '--fast'])).status).toBe(2);
    expect((await mile(['run', join(folder, 'none')])).status).toBe(3);
    const broken = spawned(['run', '-'], encodeThread(doc).replace('"series": 3', '"series": 10000'));
    expect(broken.status).toBe(3);
    expect(broken.stderr).toContain('pack.series: given 10000; allowed: a whole number from 1 to 200');
    expect(JSON.parse((await mile(['schema'])).stdout).title).toContain('Mile Thread');
  });

  it('charge, outage, plan and fit: answers, rows as CSV, a netlist of the charge, and what cannot be asked', async () => {
    const door = demoThreads().find((t) => t.name === 'Library door lock')!;
    const path = join(folder, 'door.thread.json');
    writeFileSync(path, encodeThread(door));
    const charged = (await mile(['charge', path])).stdout;
    expect(charged).toMatch(/full in +\d+/);
    expect(JSON.parse((await mile(['charge', path, '--json'])).stdout)).toMatchObject({
      end: { reason: 'terminated' },
    });
    const rows = (await mile(['charge', path, '--csv', '-'])).stdout.split('\r\n');
    expect(rows[0]).toMatch(/charger out \(A\).*limit$/);
    expect(rows[1]!.split(',').length).toBe(rows[0]!.split(',').length);
    expect((await mile(['netlist', path, '--charge', '--at', '1'])).stdout).toContain('Bbattery s1 joint');
    expect((await mile(['netlist', path, '--charge', '--at', 'noon'])).status).toBe(2);
    const held = await mile(['outage', path]);
    expect(held.stdout).toMatch(/holds, new +\d+/);
    expect(held.stdout).toMatch(/battery +3\sdays/);
    expect(held.status).toBe(1);
    expect(JSON.parse((await mile(['outage', path, '--json', '--years', '2'])).stdout)).toMatchObject({
      rows: { length: 5 },
      years: [{ year: 0, drops: 0 }, { year: 1 }],
    });
    expect((await mile(['netlist', path, '--transfer'])).stdout).toContain('Bload rail 0');
    const plan = (await mile(['plan', path, '--csv', '-'])).stdout.split('\r\n');
    expect(plan[0]).toBe('step,id,how,instrument,unit,expected,from,to,read,settles,caution');
    expect(plan.some((row) => row.includes('set:lock-rail'))).toBe(true);
    const filled = join(folder, 'readings.csv');
    writeFileSync(filled, 'id,read\ndraw:film,1.5 A\nrun,3.6 h\nnowhere,1\n');
    const fit = await mile(['fit', file, filled]);
    expect(fit.stdout).toMatch(/lasts, by readings +[34]\sh/);
    expect(fit.stdout).toContain('cells, capacity');
    expect(fit.stderr).toContain('line 4');
    const log = join(folder, 'log.csv');
    const lines = Array.from({ length: 40 }, (_, k) => `${k * 360};${(12.3 - k / 20).toFixed(3)};1,5`);
    writeFileSync(log, `t (s);U (V);I (A)\n${lines.join('\n')}\n`);
    const fitted = await mile(['fit', file, filled, '--log', log, '--json']);
    expect(JSON.parse(fitted.stdout).fits.map((f: { step: string }) => f.step)).toContain(`curve:${log}`);
    writeFileSync(log, 'a;b\n1;2\n');
    expect(await mile(['fit', file, filled, '--log', log])).toMatchObject({
      status: 3,
      stderr: expect.stringContaining('column of time'),
    });
    const bare = join(folder, 'bare.thread.json');
    const rest = structuredClone(door);
    delete rest.charging;
    delete rest.backup;
    writeFileSync(bare, encodeThread(rest));
    expect((await mile(['charge', bare])).stderr).toContain('says nothing of how it is charged');
    expect((await mile(['outage', bare])).stderr).toContain('says nothing of mains');
  });

  it('size prints every part over the run, netlist a circuit of it', async () => {
    const sized = structuredClone(doc);
    const stage = sized.stages[1]!;
    if (stage.kind !== 'buck') throw new Error('the camera rail is a buck');
    stage.parts = partsFor(stage, { low: 7, high: 12.6 }, 0.5);
    const path = join(folder, 'sized.thread.json');
    writeFileSync(path, encodeThread(sized));
    const table = (await mile(['size', path, 'Camera rail'])).stdout;
    expect(table).toMatch(/mean efficiency +9\d\.\d %/);
    // A buck works down to what its loads need over its largest duty, and what is lost on the way.
    const [, least] = /works down to +([\d.]+) V at [\d.]+ m?A, by its duty/.exec(table)!;
    const needs = Math.max(...sized.loads.filter((l) => l.from === stage.id).map((l) => l.range.min));
    expect(Number(least)).toBeGreaterThan(needs / stage.maxDuty!);
    expect(Number(least)).toBeLessThan((1.05 * needs) / stage.maxDuty!);
    expect(table).toMatch(/Inductor, peak( +[\d.]+ m?A){3} .* A +\d+ %\n/);
    expect(
      JSON.parse((await mile(['size', path, 'camera-rail', '--json'])).stdout).figures.length,
    ).toBeGreaterThan(8);
    expect((await mile(['size', file, 'camera-rail'])).stdout).toContain('no parts yet');
    const circuit = (await mile(['netlist', path, '--stage', 'Camera rail'])).stdout;
    expect(circuit).toMatch(/^\* Camera rail: .*\n[^]*\nL1 lx l2 .*\n[^]*\.tran .* uic\n\.end\n$/);
    expect((await mile(['netlist', path, '--stage', 'logic-rail'])).status).toBe(2);
    const whole = (await mile(['netlist', file, '--at', 'end'])).stdout;
    expect(whole).toMatch(/^\* Tide-pool microscope: the path at \d+/);
    expect(whole).toContain('.op\n.end\n');
    expect((await mile(['netlist', file, '--at', 'noon'])).status).toBe(2);
    expect((await mile(['run', file, '--at', 'end'])).status).toBe(2);
    expect((await mile(['size', file, 'attic'])).stderr).toContain('camera-rail (Camera rail)');
  });

  it('is content when nobody reads on, prints no control characters, and never writes over its input', async () => {
    const piped = spawnSync('sh', ['-c', `"${process.execPath}" "${bin}" schema | head -1`], {
      encoding: 'utf8',
    });
    expect(piped.stdout).toBe('{\n');
    expect(piped.stderr).toBe('');
    const odd = join(folder, 'odd.thread.json');
    writeFileSync(odd, encodeThread({ ...doc, name: 'Red \u001b[31m\u009b thread' }));
    expect((await mile(['run', odd])).stdout).toMatch(/^Red \ufffd\[31m\ufffd thread\n/);
    const before = readFileSync(odd, 'utf8');
    // By its own name, and by another one of the same file.
    for (const csv of [odd, `${folder}/./odd.thread.json`])
      expect((await mile(['run', odd, '--csv', csv])).status).toBe(2);
    expect(readFileSync(odd, 'utf8')).toBe(before);
    for (const at of ['', '1e999', '-1', 'NaN'])
      expect((await mile(['netlist', odd, `--at=${at}`])).status).toBe(2);
    const deep = `${'['.repeat(20_000)}${']'.repeat(20_000)}`;
    const nested = encodeThread(doc).replace('"hours": ', `"h": ${deep}, "hours": `);
    expect(spawned(['run', '-'], nested).status).toBe(3);
  });

  it('formula lists closed forms, says what each is given, and counts with quantities as they are written', async () => {
    expect((await mile(['formula'])).stdout).toContain('diode-or');
    expect((await mile(['formula', 'melts'])).stdout).toContain('25.0');
    // Preece: 80·d^1.5 of 0.422 mm.
    const melts = JSON.parse((await mile(['formula', 'melts', 'area=0.14', 'seconds=1s', '--json'])).stdout);
    expect(melts.lasting).toBeCloseTo(80 * Math.sqrt((4 * 0.14) / Math.PI) ** 1.5, 6);
    // At the edge of continuous conduction K is the critical one, and both ways say the same volts.
    const edge = ['vin=5', 'vout=12', 'inductance=22u', 'frequency=300k'];
    const at = async (amps: number) =>
      JSON.parse((await mile(['formula', 'boost-edge', ...edge, `amps=${amps}`, '--json'])).stdout);
    const { edge: amps } = await at(1);
    const there = await at(amps);
    expect(there.k / there.critical).toBeCloseTo(1, 9);
    expect(there.ratio).toBeCloseTo(12 / 5, 9);
    // Two supplies alike share alike, and the higher one carries all of a light load.
    const or = ['first=5', 'amps=100m', '--json'];
    const alike = JSON.parse((await mile(['formula', 'diode-or', 'second=5', ...or])).stdout);
    expect(alike.fromFirst).toBeCloseTo(0.05, 6);
    const apart = JSON.parse((await mile(['formula', 'diode-or', 'second=4.5', ...or])).stdout);
    expect(apart.fromFirst).toBeCloseTo(0.1, 4);
    // 8.4 V full and 0.5 V above it: 9 V less 0.3 V in the cable at its limit is too little, 12 V is asked for.
    const pack = ['pack=7.4', 'full=8.4', 'amps=2', 'wire=0.1', 'at5=3', 'at9=3', 'at12=3', 'at20=2.25'];
    const ask = JSON.parse((await mile(['formula', 'contract', ...pack, '--json'])).stdout);
    expect(ask.volts).toBe(12);
    // 12 V − 0.1 Ω·I gives 2 A · 7.4 V by 90 %.
    expect(ask.sourceAmps * (12 - 0.1 * ask.sourceAmps)).toBeCloseTo((2 * 7.4) / 0.9, 9);
    expect(
      JSON.parse(
        (await mile(['formula', 'contract', 'pack=7', 'full=8.4', 'amps=2', 'at5=3', '--json'])).stdout,
      ).volts,
    ).toBeNull();
    for (const words of [
      ['nothing'],
      ['toroid', 'al=49n'],
      ['toroid', 'al=49n', 'inductance=-1u'],
      ['toroid', 'al=49n', 'inductance=22V'],
      ['toroid', 'x=1'],
    ]) {
      const { status, stderr } = await mile(['formula', ...words]);
      expect([status, stderr.startsWith('mile: ')]).toEqual([2, true]);
    }
  });

  it('log tells what a single log does by itself: of a pack, its cells', async () => {
    // The case's own cell, twice in series and twice side by side: twice the volts, twice the current.
    const reference = new URL('../../core/test/reference/', import.meta.url);
    const { cases } = JSON.parse(readFileSync(new URL('H9_bench.json', reference), 'utf8'));
    const named = (id: string) => cases.find((c: { id: string }) => c.id === id);
    const known = named('H9-CAP-1');
    const curve = known.inputs.ocv.value as [number, number][];
    const [lock] = demoThreads();
    const cell = {
      ...lock!.pack.cell,
      capacityAh: named('H9-IDLE-1').inputs.capacity.value,
      ocv: { soc: curve.map(([z]) => z), volts: curve.map(([, v]) => v) },
    };
    const pack = { cell, series: 2, parallel: 2, startSoc: known.inputs.soc_start.value, leads: [] };
    const thread = join(folder, 'log.thread.json');
    writeFileSync(thread, encodeThread({ ...lock!, pack } as never));
    const doubled = (id: string) => {
      const text = readFileSync(new URL(`logs/${id}.csv`, reference), 'utf8').trim();
      const [head, ...lines] = text.split(/\r?\n/).filter((l) => !l.startsWith('#'));
      const to = join(folder, `${id}.csv`);
      const twice = (l: string) =>
        l
          .split(',')
          .map((f, k) => (k === 0 ? f : String(2 * Number(f))))
          .join(',');
      writeFileSync(to, [head, ...lines.map(twice)].join('\n'));
      return to;
    };
    const told = JSON.parse((await mile(['log', thread, 'discharge', doubled('H9-CAP-1'), '--json'])).stdout);
    expect(told.capacity.value).toBeCloseTo(known.expected.capacity.value, 3);
    expect(told.resistance.value).toBeCloseTo(known.expected.R0.value, 4);
    const rest = JSON.parse((await mile(['log', thread, 'standby', doubled('H9-IDLE-1'), '--json'])).stdout);
    expect(rest.current.value / 2).toBeCloseTo(named('H9-IDLE-1').expected.current.value, 5);
    const { stdout } = await mile(['log', thread, 'discharge', join(folder, 'H9-CAP-1.csv')]);
    expect(stdout).toContain('of a cell');
    expect((await mile(['log', thread, 'nothing', thread])).stderr).toContain(
      'no kind of log is called nothing',
    );
    expect((await mile(['log', thread, 'input', thread])).stderr).toContain('power of the load');
    expect((await mile(['log', thread, 'relax', thread])).status).toBe(3);
  });

  it('an option that goes with other commands is refused by their names', async () => {
    const { status, stderr } = await mile(['check', file, '--years', '3']);
    expect([status, stderr]).toEqual([2, 'mile: --years goes with outage\n']);
    expect((await mile(['size', file, 'x', '--csv', 'y'])).stderr).toBe(
      'mile: --csv goes with run, charge, outage and plan\n',
    );
  });
});

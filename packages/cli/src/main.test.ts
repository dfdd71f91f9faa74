import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { demoThreads, encodeThread, simulate } from '@mile-thread/core';
import { describe, expect, it } from 'vitest';

const bin = fileURLToPath(new URL('../bin/mile.js', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'mile-'));
const doc = demoThreads()[0]!;
const file = join(folder, 'demo.thread.json');
writeFileSync(file, encodeThread(doc));

// Run from another folder: the command must find its own settings.
const mile = (args: string[], input?: string) =>
  spawnSync(process.execPath, [bin, ...args], { encoding: 'utf8', input, cwd: folder });

describe('mile', () => {
  it('run --json says what the core says, from a file and from standard input', () => {
    const out = mile(['run', file, '--json']);
    expect(out.status).toBe(0);
    const answer = JSON.parse(out.stdout);
    expect(answer.usefulEnd.time).toBe(simulate(doc).usefulEnd.time);
    expect(answer.ledger.closure).toBeLessThan(1e-6);
    expect(mile(['run', '-', '--json'], encodeThread(doc)).stdout).toBe(out.stdout);
  });

  it('run --csv writes the rows with units in the header', () => {
    const csv = join(folder, 'out.csv');
    expect(mile(['run', file, '--csv', csv]).stdout).toContain('reaches the loads');
    const [header, first] = readFileSync(csv, 'utf8').split('\r\n');
    expect(header).toContain('time (s),state of charge,cell (V)');
    expect(header!.split(',').length).toBe(first!.split(',').length);
    expect(first).toContain('buck');
  });

  it('check lists findings; exit codes tell need not met, wrong use and bad files apart', () => {
    expect(mile(['check', file]).stdout).toContain('flows with everything off');
    const longer = join(folder, 'longer.thread.json');
    writeFileSync(longer, encodeThread({ ...doc, need: { hours: 40 } }));
    expect(mile(['check', longer]).status).toBe(1);
    expect(mile(['run', longer]).status).toBe(1);
    expect(mile(['fly', file]).status).toBe(2);
    expect(mile(['run', file, '--fast']).status).toBe(2);
    expect(mile(['run', join(folder, 'none')]).status).toBe(3);
    const broken = mile(['run', '-'], encodeThread(doc).replace('"series": 3', '"series": 10000'));
    expect(broken.status).toBe(3);
    expect(broken.stderr).toContain('pack.series: given 10000; allowed: a whole number from 1 to 200');
    expect(JSON.parse(mile(['schema']).stdout).title).toContain('Mile Thread');
  });
});

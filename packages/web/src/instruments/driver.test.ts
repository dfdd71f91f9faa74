import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Instrument } from './driver.ts';
import type { Line } from './line.ts';

/** A line whose other end is played by hand. */
function played(endsOff = true) {
  const sent: string[] = [];
  let text: (t: string) => void = () => undefined;
  let close: () => void = () => undefined;
  const line: Line = {
    endsOff,
    send: (t) => void sent.push(t),
    onText: (l) => (text = l),
    onClose: (l) => (close = l),
    close: () => close(),
  };
  return { line, sent, say: (t: string) => text(t), lose: () => close() };
}

const LIMITS = { volts: 10, amps: 2 };

describe('an instrument behind a line', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());
  const made = (role: 'load' | 'meter' = 'load') => {
    const other = played();
    return { ...other, it: new Instrument(role, other.line, LIMITS, 1000) };
  };
  const soon = () => vi.advanceTimersByTimeAsync(0);

  it('one question at a time, an answer perhaps in parts', async () => {
    const { it: load, sent, say } = made();
    const [volts, amps] = [load.read('volts'), load.read('amps')];
    await soon();
    expect(sent).toEqual(['MEAS:VOLT?\n']);
    say('5.0');
    say('1\r\nnobody asked for this\n');
    expect(await volts).toBe(5.01);
    await soon();
    expect(sent[1]).toBe('MEAS:CURR?\n');
    say('0.25\n');
    expect(await amps).toBe(0.25);
  });

  it('says what is wrong: late, half a line, an error, no number, beyond its limit', async () => {
    const { it: load, sent, say } = made();
    const late = expect(load.read('volts')).rejects.toMatchObject({ trouble: 'late' });
    await vi.advanceTimersByTimeAsync(1000);
    await late;
    // The late answer comes after all: it is not taken for the answer of the next question.
    const next = load.read('amps');
    await soon();
    expect(sent.at(-1)).toBe('*IDN?\n');
    say('4.98\n');
    await soon();
    say('Maker,Load,7,1\n');
    await soon();
    expect(sent.at(-1)).toBe('MEAS:CURR?\n');
    say('0.5\n');
    expect(await next).toBe(0.5);
    const half = expect(load.read('volts')).rejects.toMatchObject({ trouble: 'half' });
    await soon();
    say('4.9');
    await vi.advanceTimersByTimeAsync(1000);
    await half;
    const refused = expect(load.set('amps', 1)).rejects.toThrow('It refused SOUR:CURR: Data out of range.');
    await soon();
    say('Maker,Load,7,1\n');
    await soon();
    expect(sent.at(-1)).toBe('SOUR:CURR 1\nSYST:ERR?\n');
    say('-222,"Data out of range"\n');
    await refused;
    const words = expect(load.read('volts')).rejects.toMatchObject({ trouble: 'unreadable' });
    await soon();
    say('OVERLOAD\n');
    await words;
    await expect(load.set('amps', 3)).rejects.toMatchObject({ trouble: 'beyond' });
    const who = expect(load.identify()).rejects.toMatchObject({ trouble: 'unreadable' });
    await soon();
    say('hello\n');
    await who;
  });

  it('stop goes out before whatever waits; a lost line tells all that wait', async () => {
    const { it: load, sent, lose } = made();
    const asked = expect(load.read('volts')).rejects.toMatchObject({ trouble: 'lost' });
    await soon();
    void load.read('amps').catch(() => undefined);
    await load.stop();
    expect(sent).toEqual(['MEAS:VOLT?\n', 'INP OFF\n']);
    lose();
    await asked;
    expect(load.closed).toBe(true);
    await expect(load.read('volts')).rejects.toMatchObject({ trouble: 'lost' });
  });

  it('a line that is gone: what switches itself off is said to be off; behind a pulled cable nothing is', async () => {
    const words = async (endsOff: boolean) => {
      const other = played(endsOff);
      const load = new Instrument('load', other.line, LIMITS, 1000);
      const asked = load.read('volts').catch((e: Error) => e.message);
      await soon();
      other.lose();
      return { said: await asked, leavesOn: load.leavesOn };
    };
    expect(await words(true)).toMatchObject({ said: expect.stringContaining('is off'), leavesOn: false });
    const pulled = await words(false);
    expect(pulled.said).toContain('may still be on');
    expect(pulled.leavesOn).toBe(true);
    expect(new Instrument('meter', played(false).line).leavesOn).toBe(false);
  });

  it('streams as long as it is let, through trouble', async () => {
    const { it: meter, sent, say } = made('meter');
    const got: number[] = [];
    const troubles: string[] = [];
    const end = meter.stream(
      50,
      (_, value) => got.push(value),
      (e) => troubles.push(e.trouble),
      ['volts'],
    );
    await soon();
    say('1\n');
    await vi.advanceTimersByTimeAsync(50);
    say('two\n');
    await vi.advanceTimersByTimeAsync(50);
    say('3\n');
    await soon();
    end();
    await vi.advanceTimersByTimeAsync(200);
    expect(got).toEqual([1, 3]);
    expect(troubles).toEqual(['unreadable']);
    expect(sent).toHaveLength(3);
  });
});

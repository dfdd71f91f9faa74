import { afterEach, expect, it, vi } from 'vitest';
import { hasSerial, openSerial } from './serial.ts';

/** A serial port as a browser gives it, played by hand. */
function played(opens = true) {
  const sent: string[] = [];
  let say: ReadableStreamDefaultController<Uint8Array>;
  const port = {
    open: () => (opens ? Promise.resolve() : Promise.reject(new DOMException('in use', 'NetworkError'))),
    close: vi.fn(() => Promise.resolve()),
    readable: new ReadableStream<Uint8Array>({ start: (c) => void (say = c) }),
    writable: new WritableStream<Uint8Array>({
      write: (bytes) => void sent.push(new TextDecoder().decode(bytes)),
    }),
  };
  vi.stubGlobal('navigator', { serial: { requestPort: () => Promise.resolve(port) } });
  return {
    port,
    sent,
    say: (t: string) => say.enqueue(new TextEncoder().encode(t)),
    pull: () => say.error(new Error('pulled')),
  };
}

afterEach(() => void vi.unstubAllGlobals());

it('text both ways; what is written last goes out before the port is closed', async () => {
  const { port, sent, say } = played();
  const line = (await openSerial(9600))!;
  const heard: string[] = [];
  line.onText((t) => heard.push(t));
  line.send('*IDN?\n');
  say('Maker,');
  say('Load\n');
  await expect.poll(() => heard.join('')).toBe('Maker,Load\n');
  line.send('INP OFF\n');
  line.close();
  await expect.poll(() => port.close.mock.calls.length).toBe(1);
  expect(sent).toEqual(['*IDN?\n', 'INP OFF\n']);
});

it('a port that another program has, one that is pulled, a browser that has none, nothing chosen', async () => {
  played(false);
  await expect(openSerial(9600)).rejects.toMatchObject({ trouble: 'taken' });
  const { pull } = played();
  const line = (await openSerial(9600))!;
  const closed = new Promise<void>((done) => line.onClose(done));
  pull();
  await closed;
  vi.stubGlobal('navigator', { serial: { requestPort: () => Promise.reject(new Error('none chosen')) } });
  expect(await openSerial(9600)).toBeUndefined();
  vi.stubGlobal('navigator', {});
  expect(hasSerial()).toBe(false);
  await expect(openSerial(9600)).rejects.toThrow('no serial ports');
});

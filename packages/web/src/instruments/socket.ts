import { InstrumentError, type Line } from './line.ts';

/** A line over a socket to the local server. @throws InstrumentError where there is none */
export function openSocket(path: string): Promise<Line> {
  const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}${path}`);
  return new Promise((resolve, reject) => {
    socket.onerror = () =>
      reject(new InstrumentError('lost', 'The local server gives no line to it: is it still running?'));
    socket.onopen = () =>
      resolve({
        endsOff: true,
        send: (text) => {
          if (socket.readyState === WebSocket.OPEN) socket.send(text);
        },
        onText: (listener) => (socket.onmessage = (event) => listener(String(event.data))),
        onClose: (listener) => (socket.onclose = listener),
        close: () => socket.close(),
      });
  });
}

/** What a bench of stand-ins is asked to be. */
export interface StandInWishes {
  thread: unknown;
  seed: number;
  faulty: boolean;
  speed: number;
}

/** Ask the local server for a bench of stand-ins. @returns its id @throws Error in words */
export async function makeStandIns(wishes: StandInWishes): Promise<string> {
  const answer = await fetch('/standins', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(wishes),
  }).catch(() => undefined);
  if (!answer) throw new Error('The local server does not answer: stand-ins need it to be running.');
  const body = (await answer.json().catch(() => ({}))) as { id?: string; message?: string };
  if (!answer.ok || body.id === undefined)
    throw new Error(body.message ?? 'The local server has no stand-ins.');
  return body.id;
}

import { upgradeWebSocket } from '@hono/node-server';
import type { ThreadDocument } from '@mile-thread/core/model';
import { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { isLocal } from '../local.ts';
import type { Bench, BenchOptions } from './bench.ts';
import { ROLES, type Role } from './roles.ts';

/** Benches at once, and [ms] after which one that nobody is connected to is gone. */
const MOST = 8;
const ABANDONED = 10 * 60_000;
/** Bytes of a thread at most: ten times the largest there is. */
const LARGEST = 4_000_000;
/** Text of one line at most. */
const LONGEST = 400;
/** Bytes of answers that nobody reads, after which a line is cut. */
const UNREAD = 1_000_000;
/** Largest seed: beyond it whole numbers run out. */
const LARGEST_SEED = 2 ** 31 - 1;

/** What a server of stand-ins may be told otherwise, by its tests. */
export interface StandInOptions {
  /**
   * [ms] A bench that has not been heard of for so long has nobody at it any more, whatever its lines say: everything goes off. A
   * page that is at it reads many times a second.
   */
  deadMan?: number;
}
const DEAD_MAN = 10_000;

interface Kept {
  bench: Bench;
  connected: number;
  left: number;
  /** its lines, and [ms] when something last came by one of them */
  lines: Map<object, { role: Role; cut(): void }>;
  heard: number;
}

/** What is asked for when a bench is made. */
interface Asked extends Partial<BenchOptions> {
  thread?: unknown;
}

/**
 * Stand-ins over sockets: `POST /standins` with a thread makes a bench, `/standins/ID/ROLE` is the line to one of its instruments. A
 * connection that is lost takes that instrument's output off.
 */
export function standIns({ deadMan = DEAD_MAN }: StandInOptions = {}): Hono {
  const app = new Hono();
  const benches = new Map<string, Kept>();
  let count = 0;
  const clear = () => {
    for (const [id, { connected, left }] of benches)
      if (connected === 0 && Date.now() - left > ABANDONED) benches.delete(id);
    while (benches.size >= MOST) {
      const idle = [...benches].find(([, k]) => k.connected === 0);
      if (!idle) return false;
      benches.delete(idle[0]);
    }
    return true;
  };
  setInterval(() => {
    for (const kept of benches.values()) {
      if (kept.lines.size === 0 || Date.now() - kept.heard < deadMan) continue;
      // Half-open: the page is frozen, or its end of the line is gone without a word.
      for (const { role, cut } of kept.lines.values()) {
        kept.bench.left(role);
        cut();
      }
    }
  }, deadMan / 4).unref();
  // A socket asks no leave of its page's policy: a page from elsewhere is turned away here, one on another port too.
  app.use(async (c, next) =>
    fromHere(c.req.header('origin'), c.req.header('host')) ? next() : c.text('Not from there', 403),
  );
  app.post('/', bodyLimit({ maxSize: LARGEST }), async (c) => {
    const asked = await c.req.json<Asked>().catch(() => undefined);
    const { decodeThread, issueSentence } = await import('@mile-thread/core/model');
    const thread = decodeThread(asked?.thread);
    if (!asked || !thread.ok) {
      const why = thread.ok ? [] : thread.issues.slice(0, 3).map(issueSentence);
      return c.json({ message: `That is no thread a bench can be made of. ${why.join(' ')}`.trim() }, 400);
    }
    if (!clear()) return c.json({ message: `There are ${MOST} benches in use; leave one of them.` }, 503);
    const bench = await benchOf(thread.value, asked);
    const id = `b${++count}`;
    benches.set(id, { bench, connected: 0, left: Date.now(), lines: new Map(), heard: Date.now() });
    return c.json({ id });
  });
  app.get(
    '/:id/:role',
    async (c, next) => {
      const kept = benches.get(c.req.param('id'));
      if (!kept || !ROLES.includes(c.req.param('role') as Role)) return c.text('No such instrument', 404);
      return next();
    },
    upgradeWebSocket((c) => {
      const kept = benches.get(c.req.param('id')!)!;
      const role = c.req.param('role') as Role;
      let rest = '';
      const line = {};
      return {
        onOpen(_, socket) {
          kept.connected++;
          kept.heard = Date.now();
          kept.lines.set(line, { role, cut: () => cut(socket.raw) });
        },
        onMessage(event, socket) {
          kept.heard = Date.now();
          if (unreadBy(socket.raw) > UNREAD) return cut(socket.raw);
          const lines = (rest + String(event.data)).split('\n');
          rest = lines.pop()!.slice(0, LONGEST);
          for (const line of lines) {
            const answer = kept.bench.ask(role, line.slice(0, LONGEST));
            if (answer !== undefined) socket.send(`${answer}\n`);
          }
        },
        onClose() {
          kept.lines.delete(line);
          kept.connected--;
          kept.left = Date.now();
          kept.bench.left(role);
        },
      };
    }),
  );
  return app;
}

/** Whether a page of this very server asks, or no page at all. */
function fromHere(origin: string | undefined, host: string | undefined): boolean {
  if (origin === undefined) return true;
  return URL.canParse(origin) && isLocal(host) && new URL(origin).host === host!.toLowerCase();
}

/** What is under the adapter's socket. */
interface RawSocket {
  bufferedAmount: number;
  terminate(): void;
}

function unreadBy(raw: unknown): number {
  return (raw as RawSocket | undefined)?.bufferedAmount ?? 0;
}

function cut(raw: unknown): void {
  (raw as RawSocket | undefined)?.terminate();
}

async function benchOf(doc: ThreadDocument, { seed, faulty, speed }: Asked): Promise<Bench> {
  // The planner's own core: loaded when the first bench is made, not by everyone who opens the application.
  const { Bench: Made } = await import('./bench.ts');
  const whole = Number.isInteger(seed) && Math.abs(Number(seed)) <= LARGEST_SEED ? Number(seed) : 1;
  const times = typeof speed === 'number' && speed >= 1 && speed <= 100_000 ? speed : 1;
  return new Made(
    doc,
    { seed: whole, faulty: faulty === true, speed: times },
    () => performance.now() / 1000,
  );
}

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

interface Kept {
  bench: Bench;
  connected: number;
  left: number;
}

/** What is asked for when a bench is made. */
interface Asked extends Partial<BenchOptions> {
  thread?: unknown;
}

/**
 * Stand-ins over sockets: `POST /standins` with a thread makes a bench, `/standins/ID/ROLE` is the line to one of its instruments. A
 * connection that is lost takes that instrument's output off.
 */
export function standIns(): Hono {
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
  // A socket asks no leave of its page's policy: a page from elsewhere is turned away here.
  app.use(async (c, next) => (fromHere(c.req.header('origin')) ? next() : c.text('Not from there', 403)));
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
    benches.set(id, { bench, connected: 0, left: Date.now() });
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
      return {
        onOpen: () => void kept.connected++,
        onMessage(event, socket) {
          const lines = (rest + String(event.data)).split('\n');
          rest = lines.pop()!.slice(0, LONGEST);
          for (const line of lines) {
            const answer = kept.bench.ask(role, line.slice(0, LONGEST));
            if (answer !== undefined) socket.send(`${answer}\n`);
          }
        },
        onClose() {
          kept.connected--;
          kept.left = Date.now();
          kept.bench.left(role);
        },
      };
    }),
  );
  return app;
}

/** Whether a page of this machine asks, or no page at all. */
function fromHere(origin: string | undefined): boolean {
  return origin === undefined || (URL.canParse(origin) && isLocal(new URL(origin).host));
}

async function benchOf(doc: ThreadDocument, { seed, faulty, speed }: Asked): Promise<Bench> {
  // The planner's own core: loaded when the first bench is made, not by everyone who opens the application.
  const { Bench: Made } = await import('./bench.ts');
  const whole = Number.isInteger(seed) ? Number(seed) : 1;
  const times = typeof speed === 'number' && speed >= 1 && speed <= 100_000 ? speed : 1;
  return new Made(
    doc,
    { seed: whole, faulty: faulty === true, speed: times },
    () => performance.now() / 1000,
  );
}

import { kindOf, type PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import type { Instrument, Quantity, Role } from '../instruments/driver.ts';
import { InstrumentError } from '../instruments/line.ts';
import { attempt, change, driver, SETTLES, useBench, wait, type Place } from './connections.ts';

const { getState: now } = useBench;

/** Where the red lead of a step goes. */
export function placeOf({ probes: [red] }: PlanStep): Place | undefined {
  if (!red || red.at === 'minus') return undefined;
  return red.at === 'stage' ? `rail:${red.id}` : red.at;
}

/** Steps that a stand-in can be asked for at once: those that need no watching. */
export function canRead({ id, instrument }: PlanStep): boolean {
  return instrument !== 'eyes' && instrument !== 'clock' && !kindOf(id)?.hands?.watched;
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
    let value: number;
    let accuracy: number | undefined;
    try {
      if (simulated) await arrange(doc, step);
      value = await meter.read(what);
      accuracy = simulated ? await accuracyOf(meter, what) : undefined;
    } finally {
      // Whatever the reading came to, nothing it switched on stays on.
      if (simulated) await putBack(step);
    }
    if (what === 'volts' && value < -REVERSED) {
      throw new InstrumentError(
        'reversed',
        `It reads ${formatQuantity(value, 'V', 3)}: leads or cells are the wrong way round. Nothing is kept; put that right before anything else is connected.`,
      );
    }
    taken = {
      value: Math.abs(value),
      instrument: `${identity.model} ${identity.serial}`.slice(0, 60),
      ...(accuracy === undefined ? {} : { accuracy }),
    };
  });
  return taken;
}

/** [V] below nothing that is no longer a meter's own noise. */
const REVERSED = 0.05;

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
  const { pack, loads, onSource, charger } = kindOf(step.id)?.hands ?? {};
  await hands.tell('LOADS off');
  // A reading takes a second, not minutes of the bench's own time: cells sink on under a load.
  await hands.tell('SPEED 1');
  if (pack === 'full') await hands.tell('PACK:FILL');
  else if (pack !== undefined) await hands.tell(`PACK:AT ${pack}`);
  // The mode stands last in the id.
  if (loads) await hands.tell(`LOADS ${step.id.split(':').at(-1) || 'on'}`);
  if (onSource) {
    const load = driver('load');
    await load.tell('LEADS source');
    change('load', { place: 'source' });
    await load.set('amps', onSource(doc));
    change('load', { on: true });
    await load.output(true);
  }
  if (charger) {
    change('charger', { on: true });
    await driver('charger').output(true);
  }
  await wait(SETTLES);
}

/** Everything a step has switched on goes off: by a command that is heard of, else by one that is only sent. */
async function putBack(step: PlanStep): Promise<void> {
  const off = async (role: Role | 'hands', work: (instrument: Instrument) => Promise<void>) => {
    const instrument = driver(role);
    await work(instrument).catch(() => instrument.stop());
    if (role !== 'hands') change(role, { on: false });
  };
  await off('hands', (hands) => hands.tell('LOADS off'));
  const { onSource, charger } = kindOf(step.id)?.hands ?? {};
  if (onSource) await off('load', (load) => load.output(false));
  if (charger) await off('charger', (c) => c.output(false));
  await driver('hands').tell(`SPEED ${now().speed}`);
}

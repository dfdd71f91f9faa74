import { kindOf, type PlanStep } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import { formatQuantity } from '@mile-thread/core/units';
import type { Instrument, Quantity, Role } from '../../instruments/driver.ts';
import { InstrumentError } from '../../instruments/line.ts';
import { attempt, change, driver, SETTLES, tellFrame, useBench, wait, type Place } from './session.ts';

const { setState: put, getState: now } = useBench;

export const setValue = (role: Role, what: Quantity, value: number) =>
  attempt('Setting', async () => {
    await driver(role).set(what, value);
    change(role, { set: { ...now().connections[role]?.set, [what]: value } });
  });

export const setOutput = (role: Role, on: boolean) =>
  attempt('Switching', async () => {
    await driver(role).output(on);
    change(role, { on });
  });

/** Put leads somewhere. Those of a real instrument a person puts there: it is only noted. */
export const putLeads = (role: Role, place: Place) =>
  attempt('Moving leads', async () => {
    if (now().connections[role]?.via === 'simulated') await driver(role).tell(`LEADS ${place}`);
    change(role, { place });
  });

/** Switch the thread's own loads: off, by its programme, or held in a mode. */
export const switchLoads = (loads: string) =>
  attempt('Switching', async () => {
    await driver('hands').tell(`LOADS ${loads}`);
    put({ loads });
    tellFrame();
  });

export const fillPack = () => attempt('Charging the pack', () => driver('hands').tell('PACK:FILL'));

export const setSpeed = (speed: number) =>
  attempt('Setting', async () => {
    put({ speed });
    if (now().standIns) await driver('hands').tell(`SPEED ${speed}`);
  });

/** Places of a thread in the words of the stand-ins, and in a person's. */
export function placesOf(doc: ThreadDocument): { place: Place; words: string }[] {
  return [
    { place: 'pack', words: 'Pack' },
    ...(doc.pack.series > 1 ? [{ place: 'cell', words: 'One group' }] : []),
    ...doc.stages.map((s) => ({ place: `rail:${s.id}`, words: s.name })),
    ...(doc.charging
      ? [
          { place: 'source', words: doc.charging.source.name },
          { place: 'charger', words: 'Charger' },
        ]
      : []),
  ];
}

/** Where the red lead of a step goes. */
export function placeOf({ probes: [red], id }: PlanStep): Place | undefined {
  if (!red) return undefined;
  if (red.at === 'stage') return `rail:${red.id}`;
  if (red.at === 'minus') return undefined;
  return id === 'open:cell' ? 'cell' : red.at;
}

/** Steps that a stand-in can be asked for at once: those that need no watching. */
export function canRead({ id, instrument }: PlanStep): boolean {
  const [what] = id.split(':');
  return (
    instrument !== 'eyes' &&
    instrument !== 'clock' &&
    !['dip', 'cutoff', 'trip', 'steps'].includes(what!) &&
    id !== 'charge:end'
  );
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

/** Turn a stage's set point to where it belongs. */
export const trimStage = (id: string, volts: number) =>
  attempt('Trimming', () => driver('hands').tell(`TRIM ${id} ${volts}`));

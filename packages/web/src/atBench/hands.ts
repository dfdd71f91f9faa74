import type { ThreadDocument } from '@mile-thread/core/model';
import type { Quantity, Role } from '../instruments/driver.ts';
import { attempt, change, driver, tellFrame, useBench, type Place } from './connections.ts';

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

/** Turn a stage's set point to where it belongs. */
export const trimStage = (id: string, volts: number) =>
  attempt('Trimming', () => driver('hands').tell(`TRIM ${id} ${volts}`));

import { LET_GO } from '@mile-thread/core/bench';
import type { ThreadDocument } from '@mile-thread/core/model';
import type { Quantity } from '../instruments/driver.ts';
import { attempt, change, driver, running, SETTLES, useBench, wait, type Place } from './connections.ts';

const { getState: now } = useBench;

/** A row of a step test, and what was asked for. [V] [A] */
export interface StepRow {
  inputVolts: number;
  inputAmps: number;
  outputVolts: number;
  outputAmps: number;
}

/** Steps of a test, beyond what is claimed: a fifth. */
const STEPS = 9;
const BEYOND = 1.2;
/** Steps between the last it held and the first it did not. */
const CLOSER = 3;

/** Load a stage in steps up to a fifth beyond what is claimed, until it lets go; what it draws at each. */
export async function testStage(
  doc: ThreadDocument,
  stage: { id: string; from: string; outputVolts: number; ownAmps: number },
  most: number,
  onRow: (row: StepRow) => void,
): Promise<boolean> {
  running.ending = false;
  return attempt(`Loading ${doc.stages.find((s) => s.id === stage.id)?.name}`, async () => {
    const [meter, load, hands] = [driver('meter'), driver('load'), driver('hands')];
    await hands.tell('LOADS off');
    await hands.tell('PACK:FILL');
    // A test takes seconds: not hours of the bench's own time.
    await hands.tell('SPEED 1');
    await load.tell(`LEADS rail:${stage.id}`);
    change('load', { place: `rail:${stage.id}` });
    let base: number | undefined;
    const at = async (place: Place, what: Quantity) => {
      await meter.tell(`LEADS ${place}`);
      change('meter', { place });
      return meter.read(what);
    };
    /** @returns whether it has let go */
    const step = async (asked: number): Promise<boolean> => {
      const amps = Number(asked.toPrecision(3));
      await load.set('amps', amps);
      await load.output(amps > 0);
      change('load', { on: amps > 0, set: { amps } });
      await wait(SETTLES);
      const outputVolts = await at(`rail:${stage.id}`, 'volts');
      const inputVolts =
        stage.from === 'pack' ? await at('pack', 'volts') : await at(`rail:${stage.from}`, 'volts');
      const pack = await at('pack', 'amps');
      // What flows with nothing on it belongs to everything; of that the stage has its own part.
      base ??= pack - stage.ownAmps;
      const gone = outputVolts < (1 - LET_GO) * stage.outputVolts;
      // What has let go gives what it will: what was asked of it then says at how much.
      const outputAmps = gone ? amps : amps > 0 ? await load.read('amps') : 0;
      onRow({ inputVolts, inputAmps: Math.max(0, pack - base), outputVolts, outputAmps });
      return gone;
    };
    try {
      let [held, gone] = [0, Infinity];
      for (let k = 0; k <= STEPS && gone === Infinity && !running.ending; k++) {
        const amps = Math.min((k / STEPS) * BEYOND * most, load.limits.amps);
        if (k > 0 && amps <= held) break;
        if (await step(amps)) gone = amps;
        else held = amps;
      }
      // Where it let go, more closely.
      for (let k = 0; k < CLOSER && gone < Infinity && held > 0 && !running.ending; k++) {
        const amps = (held + gone) / 2;
        if (await step(amps)) gone = amps;
        else held = amps;
      }
    } finally {
      await load.stop();
      change('load', { on: false });
      if (!hands.closed) await hands.tell(`SPEED ${now().speed}`);
    }
  });
}

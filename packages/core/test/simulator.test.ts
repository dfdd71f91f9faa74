import { Simulation } from 'eecircuit-engine';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  backupOf,
  charge,
  chargeNetlist,
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  defaultSepic,
  demoThreads,
  handOver,
  handOverCourse,
  pathNetlist,
  Reading,
  ROW,
  rowAt,
  rowStride,
  simulate,
  STAGE_ROW,
  stageColumn,
  transferNetlist,
  type Converter,
  type StageParts,
} from './core.ts';
import { NETLIST_PERIODS, stageNetlist } from '../src/io/netlist.ts';
import { partsFor, schottky } from '../src/sizing/suggest.ts';
import { stressOf, type Stress } from '../src/stages/parts/stress.ts';
import { CONDUCTION, COPPER, RECTIFIER } from '../src/stages/point.ts';
import { partsLaw } from '../src/stages/traits.ts';

/**
 * A general-purpose circuit simulator, run on the netlists this core exports, is the referee of its switched
 * stages. Tolerances: output volts 1 %, means and RMS 2 %, ripple 10 %, conduction loss 3 %.
 */

let simulation: Simulation;
beforeAll(async () => {
  simulation = new Simulation();
  await simulation.start();
}, 30_000);

interface Waves {
  time: Float64Array;
  of(name: string): Float64Array;
}

async function run(netlist: string): Promise<Waves> {
  simulation.setNetList(netlist);
  const result = await simulation.runSim();
  expect(simulation.getError().filter((e) => /error|singular|abort/i.test(e))).toEqual([]);
  expect(result.numPoints).toBeGreaterThan(50 * NETLIST_PERIODS);
  const columns = new Map(
    (result.data as { name: string; values: number[] }[]).map((d) => [
      d.name.toLowerCase(),
      Float64Array.from(d.values),
    ]),
  );
  const of = (name: string) => {
    const column = columns.get(name);
    if (!column) throw new Error(`no ${name} among ${[...columns.keys()].join(', ')}`);
    return column;
  };
  return { time: of('time'), of };
}

/** Mean over the kept periods by trapezoids of f(values at each instant). */
function mean({ time }: Waves, f: (k: number) => number): number {
  let sum = 0;
  for (let k = 1; k < time.length; k++) sum += ((f(k) + f(k - 1)) / 2) * (time[k]! - time[k - 1]!);
  return sum / (time[time.length - 1]! - time[0]!);
}
const rms = (w: Waves, name: string) => Math.sqrt(mean(w, (k) => w.of(name)[k]! ** 2));

function stage<C extends Converter>(
  base: C,
  low: number,
  high: number,
  amps: number,
  edit: (p: NonNullable<C['parts']>) => void = () => {},
): C {
  const parts = partsFor(base, { low, high }, amps) as StageParts as NonNullable<C['parts']>;
  edit(parts);
  return { ...base, parts };
}

const POINTS: {
  name: string;
  stage: Converter;
  vin: number;
  vout: number;
  iout: number;
  discontinuous?: boolean;
}[] = [
  {
    name: 'synchronous buck, heavy',
    stage: stage(defaultBuck('s', 'pack', 5), 9, 12.6, 2),
    vin: 12,
    vout: 5,
    iout: 2,
  },
  {
    name: 'buck with a diode, continuous',
    stage: stage(defaultBuck('s', 'pack', 3.3), 9, 12.6, 1, (p) => (p.rectifier = schottky(0.4, 1, 12))),
    vin: 10,
    vout: 3.3,
    iout: 1,
  },
  {
    name: 'buck with a diode, light',
    stage: stage(defaultBuck('s', 'pack', 3.3), 9, 12.6, 1, (p) => {
      p.rectifier = schottky(0.4, 1, 12);
      p.lightLoad = 'emulation';
    }),
    vin: 12,
    vout: 3.3,
    iout: 0.06,
    discontinuous: true,
  },
  {
    name: 'synchronous buck in pulses at a lower frequency',
    stage: stage(defaultBuck('s', 'pack', 3.3), 9, 12.6, 0.5, (p) => (p.pulsePeak = 0.15)),
    vin: 12,
    vout: 3.3,
    iout: 0.02,
    discontinuous: true,
  },
  {
    name: 'synchronous boost, heavy',
    stage: stage({ ...defaultBoost('s', 'pack', 5), rectifierVolts: 0 }, 3, 4.2, 1),
    vin: 3.5,
    vout: 5,
    iout: 1,
  },
  {
    name: 'boost with a diode, steep',
    stage: stage(defaultBoost('s', 'pack', 24), 6, 8.4, 0.3),
    vin: 7,
    vout: 24,
    iout: 0.3,
  },
  {
    name: 'boost with a diode, light',
    stage: stage(defaultBoost('s', 'pack', 12), 3, 4.2, 0.4),
    vin: 3.7,
    vout: 12,
    iout: 0.03,
    discontinuous: true,
  },
  {
    name: 'synchronous boost that stops at zero current',
    stage: stage({ ...defaultBoost('s', 'pack', 5), rectifierVolts: 0 }, 3, 4.2, 1, (p) => {
      p.lightLoad = 'emulation';
      p.outputCapacitor = { ...p.outputCapacitor, count: 1 };
    }),
    vin: 3.7,
    vout: 5,
    iout: 0.05,
    discontinuous: true,
  },
  {
    name: 'synchronous buck next to no load: its current reverses',
    stage: stage(defaultBuck('s', 'pack', 3.3), 9, 12.6, 1, (p) => (p.lightLoad = 'forced')),
    vin: 12,
    vout: 3.3,
    iout: 0.01,
  },
  {
    name: 'boost with a diode into an electrolytic',
    stage: stage(defaultBoost('s', 'pack', 12), 3, 4.2, 0.4, (p) => {
      p.outputCapacitor = { ...p.outputCapacitor, capacitance: 47e-6, count: 1, biasShare: 1, esr: 0.5 };
    }),
    vin: 3.7,
    vout: 12,
    iout: 0.4,
  },
  {
    name: 'four switches stepping down',
    stage: stage(defaultBuckBoost('s', 'pack', 9), 7, 12.6, 1),
    vin: 12.3,
    vout: 9,
    iout: 1,
  },
  {
    name: 'four switches, all at work',
    stage: stage(defaultBuckBoost('s', 'pack', 9), 7, 12.6, 1),
    vin: 9.2,
    vout: 9,
    iout: 1,
  },
  {
    name: 'four switches stepping up',
    stage: stage(defaultBuckBoost('s', 'pack', 9), 7, 12.6, 1),
    vin: 7.2,
    vout: 9,
    iout: 1,
  },
  {
    name: 'SEPIC, heavy',
    stage: stage(defaultSepic('s', 'pack', 5), 3, 8.4, 0.6),
    vin: 4,
    vout: 5,
    iout: 0.6,
  },
  {
    name: 'SEPIC, light',
    stage: stage(defaultSepic('s', 'pack', 5), 3, 8.4, 0.6, (p) => {
      p.outputCapacitor = { ...p.outputCapacitor, count: 1 };
    }),
    vin: 7,
    vout: 5,
    iout: 0.04,
    discontinuous: true,
  },
];

const close = (what: string, got: number, wanted: number, share: number, floor = 0) =>
  expect(Math.abs(got - wanted), `${what}: core ${wanted}, circuit ${got}`).toBeLessThanOrEqual(
    Math.max(share * Math.abs(got), floor),
  );

describe('a whole path in a circuit simulator', () => {
  it('every rail stands where the run has it: full, half way, at the end', async () => {
    for (const doc of demoThreads()) {
      const result = simulate(doc);
      for (const share of [0, 0.5, 0.999]) {
        const time = share * result.usefulEnd.time;
        simulation.setNetList(pathNetlist(doc, result, time));
        const op = await simulation.runSim();
        expect(simulation.getError().filter((e) => /error|singular|abort/i.test(e))).toEqual([]);
        const volts = (node: string) =>
          (op.data as { name: string; values: number[] }[]).find((d) => d.name === `v(${node})`)!.values[0]!;
        const at = rowAt(result.series, time) * rowStride(result.series);
        const kept = result.series.data;
        close('pack', volts('pack'), kept[at + ROW.packVolts]!, 1e-4);
        doc.stages.forEach((_, k) => {
          close(`stage ${k}`, volts(`s${k + 1}`), kept[at + stageColumn(k) + STAGE_ROW.outputVolts]!, 1e-4);
        });
      }
    }
  });
});

describe('a charge in a circuit simulator', () => {
  it('source, charger and joint stand where the charge has them: begun, half way, held', async () => {
    for (const doc of demoThreads().filter((d) => d.charging)) {
      const result = charge(doc);
      const rows = new Reading(result.series);
      for (const share of [0.001, 0.5, 0.97]) {
        const time = share * result.end.time;
        simulation.setNetList(chargeNetlist(doc, result, time));
        const op = await simulation.runSim();
        expect(simulation.getError().filter((e) => /error|singular|abort/i.test(e))).toEqual([]);
        const volts = (node: string) =>
          (op.data as { name: string; values: number[] }[]).find((d) => d.name === `v(${node})`)!.values[0]!;
        const row = rows.rowAt(time);
        close(`${doc.name} pack`, volts('pack'), rows.at(row, 'packVolts'), 1e-4);
        close(`${doc.name} charger in`, volts('in'), rows.of(row, 'inVolts'), 2e-4);
        close(`${doc.name} terminals`, volts('terminals'), rows.of(row, 'sourceVolts'), 2e-4);
        if (doc.charging!.meanwhile === 'path') {
          const load = new Reading(result.series, Infinity);
          close(`${doc.name} joint`, volts('joint'), load.at(row, load.load(0, 'volts')), 2e-4);
        }
      }
    }
  });
});

describe('a transfer in a circuit simulator', () => {
  const lock = demoThreads().find((t) => t.name.includes('lock'))!;
  const demo = backupOf(lock).dip!.task;
  for (const [name, task] of [
    ['of the door lock', demo],
    ['of a rail on a small capacitor that dips far', { ...demo, farads: 4e-4, watts: 12, esr: 0.1 }],
  ] as const) {
    it(`${name}: first instant, lowest, where it settles`, async () => {
      const w = await run(transferNetlist(name, task));
      const rail = w.of('v(rail)');
      const { first, lowest, settles } = handOver(task);
      // What the rail loses is what is referred to: its volts alone would hide a wrong course.
      const lost = (volts: number) => task.rail - volts;
      const low = Math.min(...rail.filter((_, k) => w.time[k]! <= task.seconds));
      expect(lost(rail[1]!) / lost(first)).toBeCloseTo(1, 1);
      expect(lost(low) / lost(lowest)).toBeCloseTo(1, 2);
      expect(lost(rail.at(-1)!) / lost(settles)).toBeCloseTo(1, 1);
      const course = handOverCourse(task);
      for (const at of [0.3, 0.9, 1.2, 1.8]) {
        const k = w.time.findIndex((t) => t >= at * task.seconds);
        const own = course.seconds.findIndex((t) => t >= at * task.seconds);
        expect(lost(rail[k]!) / lost(course.volts[own]!)).toBeCloseTo(1, 1);
      }
    });
  }
});

describe('netlists of stages in a circuit simulator', () => {
  for (const { name, stage: s, vin, vout, iout, discontinuous = false } of POINTS) {
    it(name, async () => {
      const law = partsLaw(s);
      const stress = stressOf(law, vin, vout, iout)!;
      expect(stress.discontinuous).toBe(discontinuous);
      // In steps twice as long as a person is handed, a fiftieth of a period: means and RMS move by less than a thousandth.
      const netlist = stageNetlist(s, { vin, vout, iout }).replace(
        /^(\.tran) (\S+) (.*) \2 uic$/m,
        (_, tran: string, step: string, rest: string) =>
          `${tran} ${2 * Number(step)} ${rest} ${2 * Number(step)} uic`,
      );
      const w = await run(netlist);
      close(
        'output volts',
        mean(w, (k) => w.of('v(out)')[k]!),
        vout,
        0.01,
      );
      close(
        'inductor, mean',
        mean(w, (k) => w.of('i(l1)')[k]!),
        stress.inductor.mean,
        0.02,
      );
      close('inductor, RMS', rms(w, 'i(l1)'), stress.inductor.rms, 0.02);
      if (stress.secondInductor) {
        close(
          'second inductor, mean',
          mean(w, (k) => w.of('i(l2)')[k]!),
          stress.secondInductor.mean,
          0.02,
        );
        close('second inductor, RMS', rms(w, 'i(l2)'), stress.secondInductor.rms, 0.02);
      }
      const ways = waysIn(stress);
      for (const way of ways) {
        const probe = `i(v${way})`;
        close(
          `${way}, mean`,
          mean(w, (k) => w.of(probe)[k]!),
          stress.ways[way].mean,
          0.02,
          0.002 * iout,
        );
        close(`${way}, RMS`, rms(w, probe), stress.ways[way].rms, 0.02);
      }
      close('output capacitor, RMS', rms(w, 'i(vco)'), stress.output.rms, 0.02);
      const out = w.of('v(out)');
      close('output ripple', Math.max(...out) - Math.min(...out), stress.output.ripple, 0.1);
      const core = stress.losses[CONDUCTION]! + stress.losses[RECTIFIER]! + stress.losses[COPPER]!;
      const dead = core - withoutDeadTime(s, vin, vout, iout);
      close('conduction loss', conduction(w, law.bridge, ways), core - dead, 0.03);
    });
  }
});

type WayName = 'a' | 'b' | 'c' | 'd';

function waysIn({ switching, ways }: Stress): WayName[] {
  if (switching === 'sepic') return ['c', 'd'];
  return (['a', 'b', 'c', 'd'] as const).filter((x) => ways[x].rms > 0);
}

/** [W] from the circuit's own currents and the resistances and drops it was given. */
function conduction(w: Waves, bridge: ReturnType<typeof partsLaw>['bridge'], ways: WayName[]): number {
  let sum = 0;
  for (const way of ways) {
    const { ohms, volts } = bridge[way];
    sum += ohms * rms(w, `i(v${way})`) ** 2 + volts * mean(w, (k) => w.of(`i(v${way})`)[k]!);
  }
  const { windings } = bridge;
  if (!windings) return sum + bridge.winding * rms(w, 'i(l1)') ** 2;
  return sum + windings.first.ohms * rms(w, 'i(l1)') ** 2 + windings.second.ohms * rms(w, 'i(l2)') ** 2;
}

/** [W] the same sum with no dead time, which the circuit has not. */
function withoutDeadTime(s: Converter, vin: number, vout: number, iout: number): number {
  const law = partsLaw({ ...s, parts: { ...s.parts!, deadTime: 0 } } as Converter);
  const { losses } = stressOf(law, vin, vout, iout)!;
  return losses[CONDUCTION]! + losses[RECTIFIER]! + losses[COPPER]!;
}

import fc from 'fast-check';
import {
  CELL_LIBRARY,
  isConverter,
  partsFor,
  STAGE_KINDS,
  type Load,
  type Loss,
  type Pack,
  type Stage,
  type StageKind,
  type StageParts,
  type ThreadDocument,
} from './core.ts';
import type { CellGroup } from '../src/model/group.ts';
import { thread } from './build.ts';

const KINDS = Object.keys(STAGE_KINDS) as StageKind[];
const amps = fc.double({ min: 0.001, max: 3, noNaN: true });
/** Records with Object's prototype, as JSON gives them. */
const plain = <T>(shape: { [K in keyof T]: fc.Arbitrary<T[K]> }) =>
  fc.record(shape, { noNullPrototype: true });
const part = (min: number, max: number) => fc.double({ min, max, noNaN: true });

const loss: fc.Arbitrary<Loss> = fc.oneof(
  plain({
    basis: fc.constant('efficiency' as const),
    efficiency: part(0.6, 0.99),
    quiescentCurrent: part(0, 0.01),
  }),
  plain({
    basis: fc.constant('polynomial' as const),
    fixed: part(0, 0.1),
    perOutputAmp: part(0, 0.5),
    perInputAmp: part(0, 0.2),
    perInputAmpSquared: part(0, 0.2),
    quiescentCurrent: part(0, 0.01),
  }),
  plain({
    basis: fc.constant('points' as const),
    quiescentCurrent: part(0, 0.001),
    points: fc.array(
      plain({ inputVolts: part(2, 20), outputAmps: part(0.01, 3), efficiency: part(0.5, 0.97) }),
      { minLength: 2, maxLength: 12 },
    ),
  }),
);

/** Groups that differ, or a cell in each that does; of one cell neither. */
function unlike(r: { series: number; parallel: number; unlike: CellGroup[] | undefined }): Partial<Pack> {
  if (!r.unlike) return {};
  if (r.parallel > 1 && r.unlike.length % 2 === 1) return { odd: { count: 1, ...r.unlike[0]! } };
  return r.series > 1 ? { groups: r.unlike.slice(0, r.series) } : {};
}

/** Any tree of up to six stages and eight loads on any shipped cell, sensible or not. */
export const anyThread: fc.Arbitrary<ThreadDocument> = fc
  .record({
    cell: fc.constantFrom(...Object.values(CELL_LIBRARY)),
    series: fc.integer({ min: 1, max: 7 }),
    parallel: fc.integer({ min: 1, max: 4 }),
    startSoc: part(0.05, 1),
    protection: fc.option(
      plain({
        cutoffVolts: part(1, 3.2),
        tripCurrent: part(1, 30),
        resistance: part(0, 0.3),
        quiescentCurrent: part(0, 0.001),
        grade: fc.constant('assumed' as const),
      }),
      { nil: undefined },
    ),
    leadLength: part(0, 3),
    stages: fc.array(
      fc.record({
        kind: fc.constantFrom(...KINDS),
        volts: part(1.2, 24),
        place: fc.nat(),
        loss,
        minInput: part(0.5, 6),
        limit: part(0.2, 6),
        real: fc.boolean(),
        filtered: fc.boolean(),
      }),
      { maxLength: 6 },
    ),
    loads: fc.array(
      fc.record({
        draw: fc.constantFrom('power' as const, 'current' as const, 'resistance' as const),
        amps,
        place: fc.nat(),
        min: part(0, 10),
        essential: fc.boolean(),
      }),
      { minLength: 1, maxLength: 8 },
    ),
    unlike: fc.option(
      fc.array(plain({ capacity: part(0.5, 1.2), resistance: part(0.5, 4), startSoc: part(0.3, 1) }), {
        minLength: 1,
        maxLength: 3,
      }),
      { nil: undefined, freq: 4 },
    ),
  })
  .map((r) => {
    const places = ['pack'];
    const stages = r.stages.map((s, k): Stage => {
      const from = places[s.place % places.length]!;
      places.push(`s${k}`);
      const made = STAGE_KINDS[s.kind].create(`s${k}`, from, s.volts);
      if ('loss' in made) made.loss = s.loss;
      if ('minInput' in made) made.minInput = Math.min(s.minInput, made.maxInput - 1);
      if ('inputLimit' in made) made.inputLimit = s.limit;
      else if ('outputLimit' in made) made.outputLimit = s.limit;
      if (!isConverter(made) || !s.real) return made;
      const parts = partsFor(made, { low: 0.7 * s.volts, high: 1.4 * s.volts }, s.limit / 2) as StageParts;
      if (s.filtered) parts.filter = { inductance: 1e-6, resistance: 0.03, capacitance: 1e-5, esr: 0.01 };
      return JSON.parse(JSON.stringify({ ...made, parts })) as Stage;
    });
    const loads = r.loads.map((l, k): Load => {
      const value = l.draw === 'power' ? l.amps * 4 : l.draw === 'current' ? l.amps : 4 / l.amps;
      return {
        id: `l${k}`,
        name: `Load ${k}`,
        from: places[l.place % places.length]!,
        draw: l.draw,
        [l.draw]: value,
        range: { min: l.min, max: l.min + 8 },
        essential: l.essential,
        grade: 'assumed',
      };
    });
    const { cell, series, parallel, startSoc, protection } = r;
    const leads = [
      { gaugeSystem: 'AWG' as const, gauge: 20, length: r.leadLength, parallel: 1, temperature: 25 },
    ];
    const pack = { series, parallel, startSoc, protection, leads, ...unlike(r) };
    return thread({ cell, pack, stages, loads });
  });

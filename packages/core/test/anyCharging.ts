import fc from 'fast-check';
import {
  CELL_LIBRARY,
  defaultBoost,
  defaultBuck,
  defaultBuckBoost,
  defaultDirect,
  defaultLinear,
  type Charging,
  type Source,
  type Stage,
  type ThreadDocument,
} from './core.ts';
import { load, seriesOhms, thread } from './build.ts';

const beyond = fc.constantFrom('hard' as const, 'soft' as const, 'hiccup' as const);
const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });

/** Any source of some volts. */
const anySource: fc.Arbitrary<Source> = fc.oneof(
  fc.record({ volts: between(3, 30), droop: between(0, 1), limit: between(0.2, 5), beyond }).map((s) => ({
    ...s,
    name: 'S',
    kind: 'supply' as const,
    grade: 'assumed' as const,
  })),
  fc.record({ asks: fc.constantFrom(5, 9, 12, 20), droop: between(0, 0.5), beyond }).map((s) => ({
    ...s,
    name: 'S',
    kind: 'contracts' as const,
    offers: [
      { volts: 5, amps: 3 },
      { volts: 9, amps: 2 },
      { volts: 20, amps: 1.5 },
    ],
    wall: { standby: 0.1, perWatt: 0.1, perSquareWatt: 0.001 },
    grade: 'assumed' as const,
  })),
);

function stageOf(kind: string, volts: number): Stage {
  if (kind === 'linear') return { ...defaultLinear('c', 'source', volts), maxInput: 60, outputLimit: 10 };
  if (kind === 'buck') return { ...defaultBuck('c', 'source', volts), outputLimit: 10, minInput: 2 };
  if (kind === 'boost') return { ...defaultBoost('c', 'source', volts), inputLimit: 5 };
  if (kind === 'buckBoost') return { ...defaultBuckBoost('c', 'source', volts), inputLimit: 5 };
  return { ...defaultDirect('c', 'source'), resistance: 0.5 };
}

const cells = ['18650-energy', 'polymer-850-published', '26650-lfp', '18650-power'] as const;

/** Any pack before any charger and source, its loads off, on the battery or on the source. */
export const anyCharged: fc.Arbitrary<ThreadDocument & { charging: Charging }> = fc
  .record({
    cell: fc.constantFrom(...cells),
    series: fc.integer({ min: 1, max: 4 }),
    parallel: fc.integer({ min: 1, max: 3 }),
    source: anySource,
    kind: fc.constantFrom('linear', 'buck', 'boost', 'buckBoost', 'direct'),
    over: between(-0.1, 0.05),
    rate: between(0.05, 1),
    input: fc.boolean(),
    ends: fc.option(between(0.02, 0.2)),
    diode: fc.option(between(0.1, 0.7)),
    gentle: fc.boolean(),
    wire: between(0, 0.4),
    from: between(0.01, 0.9),
    meanwhile: fc.constantFrom('off' as const, 'battery' as const, 'path' as const),
    watts: between(0.05, 3),
    join: fc.constantFrom('diode' as const, 'managed' as const),
    before: fc.option(between(0.1, 0.7)),
  })
  .map((r) => {
    const cell = CELL_LIBRARY[r.cell]!;
    const volts = r.series * (cell.fullVolts + r.over);
    const current = r.rate * cell.capacityAh * r.parallel;
    const diode = { volts: 0.3, resistance: 0.05 };
    return {
      ...thread({
        cell,
        pack: { series: r.series, parallel: r.parallel, protection: seriesOhms(0.05) },
        loads: [load('power', r.watts)],
      }),
      charging: {
        source: r.source,
        contacts: { contacts: 1, contactResistance: r.wire },
        stage: stageOf(r.kind, volts),
        ...(r.kind === 'direct'
          ? {}
          : {
              control: {
                current,
                sense: r.input ? ('input' as const) : ('output' as const),
                ...(r.ends === null ? {} : { terminate: r.ends * current, deglitch: 5 }),
                ...(r.gentle ? { precharge: { below: 3, current: current / 10 } } : {}),
              },
            }),
        ...(r.diode === null ? {} : { diode: { volts: r.diode, resistance: 0.02 } }),
        ...(r.before === null ? {} : { inputDiode: { volts: r.before, resistance: 0.03 } }),
        meanwhile: r.meanwhile,
        ...(r.meanwhile === 'path'
          ? { join: { at: 'pack', kind: r.join, adapter: diode, battery: diode } }
          : {}),
        from: r.from,
      },
    };
  });

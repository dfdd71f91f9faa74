import { afterEach, describe, expect, it } from 'vitest';
import { load, plainCell, thread } from '../../../test/build.ts';
import { charge, Reading, decodeThread, defaultLinear, type Charging } from '../../../test/core.ts';
import { Quantity } from '../../model/fields.ts';
import { SourceBase } from '../../model/sources/base.ts';
import type { Source } from '../../model/sources/registry.ts';
import { sourceLaw, sourceVolts } from '../source.ts';
import type { SourceKind } from './kind.ts';
import { registerSource, retold, sourceKind, sourceKinds } from './registry.ts';

/** A made-up source whose volts bend away as its current comes near the most it has: V = V0 + n·ln(1 − I/I0). */
class BentSource extends SourceBase {
  declare kind: 'bent';
  @Quantity('V', 0.5, 100, 'Volts with nothing connected')
  volts!: number;
  @Quantity('A', 1e-3, 1000, 'Current into a short')
  most!: number;
}
const SOFTNESS = 0.3;
const bent: SourceKind<BentSource> = {
  kind: 'bent',
  model: BentSource,
  label: 'bent',
  words: ({ volts }) => `${volts} V`,
  law: ({ volts, most, beyond }) => ({
    ...{ open: volts, limit: 0.99 * most, most: 0.99 * most, beyond },
    ...{ droop: SOFTNESS / most, straight: false },
    volts: (amps) => volts + SOFTNESS * Math.log(Math.max(1e-9, 1 - amps / most)),
    stretch: () => 0,
  }),
  said: ({ volts, most }) => ({ volts, amps: most }),
  retold: (rest, { volts, amps }) => ({ ...rest, kind: 'bent', volts, most: amps }),
  withCurve: (source, { open }) => ({ ...source, volts: open }),
};

const base = { name: 'S', beyond: 'hard' as const, grade: 'assumed' as const };

describe('kinds of sources', () => {
  let letGo: (() => void) | undefined;
  afterEach(() => {
    letGo?.();
    letGo = undefined;
  });

  it('are told in another way and keep what is said of them', () => {
    const supply = { ...base, kind: 'supply', volts: 12, droop: 0.2, limit: 2 } as Source;
    for (const { kind } of sourceKinds()) {
      const told = retold(supply, kind);
      expect(sourceKind(told).said(told)).toEqual({ volts: 12, amps: 2 });
      expect(sourceLaw(told).limit).toBeCloseTo(2, 12);
    }
    const read = sourceKind({ kind: 'readings' }).withCurve(retold(supply, 'readings'), {
      open: 11.8,
      droop: 0.4,
    });
    expect(sourceLaw(read as Source).volts(1.5)).toBeCloseTo(11.8 - 0.6, 12);
  });

  it('a source that sags gives more than its label says, one that does not lets go there', () => {
    const soft = sourceLaw({
      ...base,
      kind: 'supply',
      volts: 5,
      droop: 0.1,
      limit: 1,
      beyond: 'soft',
      sag: 2,
    });
    expect(soft.volts(1.5)).toBeCloseTo(5 - 0.15 - 1, 12);
    expect(soft.stretch(0.9)).toBe(0);
    expect(soft.stretch(1.1)).toBe(1);
    // Its volts are gone where 4.9 V fall by 2.1 V an ampere.
    expect(soft.most).toBeCloseTo(1 + 4.9 / 2.1, 12);
    expect(soft.volts(soft.most)).toBeCloseTo(0, 12);
    const hard = sourceLaw({ ...base, kind: 'supply', volts: 5, droop: 0.1, limit: 1 });
    expect(sourceVolts(hard, 1)).toBeCloseTo(4.9, 12);
    expect(sourceVolts(hard, 1.01)).toBe(-Infinity);
  });

  it('a made-up one that is not straight is read from a file and charges, with nothing else touched', () => {
    const charging: Charging = {
      source: { ...base, kind: 'bent', volts: 5.4, most: 0.6 } as unknown as Source,
      stage: {
        ...defaultLinear('c', 'source', 4.15),
        ...{ dropoutVolts: 0.1, dropoutResistance: 0.2, outputLimit: 3, maxInput: 30, thermalResistance: 1 },
      },
      control: { current: 1, sense: 'output', terminate: 0.05 },
      meanwhile: 'off',
      from: 0.2,
    };
    const doc = {
      ...thread({ cell: plainCell(1, 3, 4.2, 0.1), pack: { startSoc: 0.2 }, loads: [load('current', 0.1)] }),
      charging,
    };
    expect(decodeThread(doc).ok).toBe(false);
    letGo = registerSource(bent);
    expect(() => registerSource(bent)).toThrow(/there is a kind bent/);
    expect(decodeThread(doc).ok).toBe(true);
    const result = charge(doc);
    expect(result.end.reason).toBe('terminated');
    expect(result.ledger.closure).toBeLessThan(1e-7);
    // Never more than it has, and at every instant on its own curve.
    const rows = new Reading(result.series);
    for (let r = 0; r < rows.count; r++) {
      const amps = rows.of(r, 'sourceAmps');
      expect(amps).toBeLessThan(0.6);
      expect(rows.of(r, 'sourceVolts')).toBeCloseTo(5.4 + SOFTNESS * Math.log(1 - amps / 0.6), 6);
    }
    // The headroom of 4 V and more ends the current short of the most: above 0.5 A the source stands below 4.9 V.
    expect(result.fastest.amps).toBeGreaterThan(0.5);
    expect(result.fastest.amps).toBeLessThan(0.595);
  });
});

import { expect, it } from 'vitest';
import { demoThreads } from '../demo/threads.ts';
import { applyEdits } from '../model/edit.ts';
import type { ThreadDocument } from '../model/thread.ts';
import { meeting } from './joins.ts';

it('another way of joining takes its own losses on both sides, and keeps what stands on the rail', () => {
  const lock = demoThreads().find((t) => t.name.includes('lock'))!;
  const joined = (doc: ThreadDocument, way: Parameters<typeof meeting>[1]) =>
    applyEdits(doc, meeting(doc, way));
  const diodes = joined(lock, 'diode');
  const { wake, capacitance, at } = diodes.charging!.join!;
  expect(diodes.charging!.meanwhile).toBe('path');
  // Two diodes, each with the volts of one: the battery's as much as the adapter's.
  const { adapter, battery } = diodes.charging!.join!;
  expect(adapter.volts).toBeGreaterThan(0.2);
  expect(battery).toEqual(adapter);

  const ideal = joined(diodes, 'ideal').charging!.join!;
  expect(ideal).toMatchObject({ kind: 'ideal', wake, capacitance, at });
  expect(ideal.adapter.volts).toBe(0);
  expect(ideal.battery).toEqual(ideal.adapter);
  expect(joined(diodes, 'managed').charging!.join!.kind).toBe('managed');

  // On the battery bus nothing meets; what was fitted is there again when the loads go back.
  const bus = joined(diodes, 'bus');
  expect(bus.charging!.meanwhile).toBe('battery');
  expect(joined(bus, 'diode').charging!.join).toMatchObject({ kind: 'diode', wake, capacitance, at });
});

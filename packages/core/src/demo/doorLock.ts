import { CELL_LIBRARY } from '../cells/library.ts';
import type { Charging } from '../model/charging.ts';
import { defaultBuck } from '../model/kinds/buck.ts';
import { defaultBoost } from '../model/kinds/boost.ts';
import { FORMAT, VERSION, type ThreadDocument } from '../model/thread.ts';
import { awg } from './wires.ts';

/** A door lock while the grid is down: the reader on, the strike for three seconds now and then. */
export function libraryDoorLock(): ThreadDocument {
  return {
    format: FORMAT,
    version: VERSION,
    name: 'Library door lock',
    notes: 'Reader and strike on their battery for the evenings without grid; else the adapter feeds them.',
    goals: { hours: 8, shelfMonths: 12 },
    pack: {
      cell: CELL_LIBRARY['18650-balanced']!,
      series: 1,
      parallel: 3,
      startSoc: 1,
      protection: {
        cutoffVolts: 2.7,
        tripCurrent: 8,
        tripDelay: 0.01,
        shortCurrent: 30,
        shortDelay: 0.0003,
        releaseVolts: 3,
        release: 'unload',
        resistance: 0.02,
        quiescentCurrent: 6e-6,
        grade: 'typical',
      },
      fuse: { rating: 7.5, resistance: 0.007, meltingI2t: 60 },
      drains: [{ name: 'Mains light', current: 0.9e-3, switched: true }],
      leads: [awg(18, 0.4)],
      connectors: { contacts: 2, contactResistance: 0.003 },
    },
    stages: [
      {
        ...defaultBoost('lock-rail', 'pack', 12),
        name: 'Lock rail',
        minInput: 2.8,
        loss: { basis: 'efficiency', efficiency: 0.88, quiescentCurrent: 1.6e-3 },
        inputLimit: 5.5,
        grade: 'claimed',
      },
    ],
    loads: [
      {
        id: 'reader',
        name: 'Reader',
        from: 'lock-rail',
        draw: 'current',
        current: 0.09,
        range: { min: 10.5, max: 13.5 },
        below: 'resets',
        restart: { seconds: 6, value: 0.14 },
        essential: true,
        grade: 'measured',
      },
      {
        id: 'strike',
        name: 'Strike',
        from: 'lock-rail',
        draw: 'current',
        current: 0.6,
        draws: [{ mode: 'closed', value: 0 }],
        range: { min: 10.2, max: 13.2 },
        below: 'stops',
        essential: true,
        grade: 'typical',
      },
    ],
    charging: doorCharging(),
    backup: {
      span: 168,
      hold: 8,
      outages: [
        { from: 19.2, hours: 1.5 },
        { from: 66, hours: 2.7 },
        { from: 90.3, hours: 2.7 },
        { from: 94.6, hours: 11.5 },
        { from: 134, hours: 0.75 },
      ],
      chance: { perYear: 9, half: 1.25, sixth: 3 },
    },
    modes: [
      { id: 'open', name: 'Open' },
      { id: 'closed', name: 'Closed' },
    ],
    programme: {
      segments: [
        { mode: 'open', seconds: 3 },
        { mode: 'closed', seconds: 177 },
      ],
      after: 'repeat',
    },
  };
}

/** The mains adapter feeds the lock and, besides, what fills the battery. */
function doorCharging(): Charging {
  return {
    source: {
      name: 'Adapter 12 V 0.8 A',
      kind: 'supply',
      volts: 12.1,
      droop: 0.15,
      limit: 0.8,
      beyond: 'hard',
      wall: { standby: 0.15, perWatt: 0.14, perSquareWatt: 0.002 },
      grade: 'typical',
    },
    stage: {
      ...defaultBuck('charger', 'source', 4.16),
      name: 'Charger',
      minInput: 5,
      outputLimit: 2,
      loss: { basis: 'efficiency', efficiency: 0.87, quiescentCurrent: 1.2e-3 },
      thermalResistance: 60,
      maxJunction: 120,
      grade: 'claimed',
    },
    control: {
      current: 0.5,
      sense: 'output',
      terminate: 0.05,
      deglitch: 10,
      recharge: 4.05,
      trimmed: { meter: 0.005, drift: 0.002 },
    },
    meanwhile: 'path',
    join: {
      at: 'lock-rail',
      kind: 'diode',
      adapter: { volts: 0.35, resistance: 0.12 },
      battery: { volts: 0.35, resistance: 0.12 },
      wake: 1.15e-3,
      capacitance: 1e-3,
      esr: 0.04,
    },
    from: 0.1,
  };
}

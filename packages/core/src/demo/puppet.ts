import { CELL_LIBRARY } from '../cells/library.ts';
import { defaultBuck } from '../model/kinds/buck.ts';
import { defaultLinear } from '../model/kinds/linear.ts';
import { FORMAT, VERSION, type ThreadDocument } from '../model/thread.ts';
import { awg } from './wires.ts';

/** Five servos that pull hard for a moment, and a receiver that must never notice. */
export function streetPuppet(): ThreadDocument {
  return {
    format: FORMAT,
    version: VERSION,
    name: 'Street-puppet servos',
    notes:
      'An hour and a half of street theatre. The receiver has its own rail so that no pull of the servos resets it.',
    goals: { hours: 1.5 },
    pack: {
      cell: CELL_LIBRARY['18650-power']!,
      series: 2,
      parallel: 2,
      startSoc: 1,
      protection: {
        cutoffVolts: 2.6,
        tripCurrent: 20,
        tripDelay: 0.02,
        shortCurrent: 60,
        shortDelay: 0.0003,
        resistance: 0.008,
        quiescentCurrent: 12e-6,
        grade: 'typical',
      },
      fuse: { rating: 10, resistance: 0.005 },
      leads: [awg(16, 0.25)],
      connectors: { contacts: 2, contactResistance: 0.001 },
      disconnect: { resistance: 0.006, leakage: 1e-6 },
    },
    stages: [
      {
        ...defaultBuck('servo-rail', 'pack', 6),
        name: 'Servo rail',
        minInput: 5.5,
        outputLimit: 12,
        loss: { basis: 'efficiency', efficiency: 0.93, quiescentCurrent: 4e-3 },
        maxDuty: 0.98,
        dropoutResistance: 0.02,
        grade: 'claimed',
      },
      {
        ...defaultLinear('receiver-rail', 'pack', 3.3),
        name: 'Receiver rail',
        minInput: 3,
        thermalResistance: 60,
        grade: 'typical',
      },
    ],
    loads: [
      {
        id: 'servos',
        name: 'Five servos',
        from: 'servo-rail',
        draw: 'current',
        current: 1.6,
        draws: [{ mode: 'still', value: 0.25 }],
        peaks: [{ value: 9, seconds: 0.12, mode: 'act', every: 1.5 }],
        range: { min: 5, max: 6.6 },
        essential: true,
        grade: 'measured',
      },
      {
        id: 'receiver',
        name: 'Receiver',
        from: 'receiver-rail',
        draw: 'current',
        current: 0.06,
        range: { min: 3, max: 3.6 },
        below: 'resets',
        restart: { seconds: 2, value: 0.06 },
        essential: true,
        grade: 'measured',
      },
    ],
    modes: [
      { id: 'act', name: 'Act' },
      { id: 'still', name: 'Still' },
    ],
    programme: {
      segments: [
        { mode: 'act', seconds: 12 },
        { mode: 'still', seconds: 8 },
      ],
      after: 'repeat',
    },
  };
}

import { CELL_LIBRARY } from '../cells/library.ts';
import { defaultBoost } from '../model/kinds/boost.ts';
import { defaultBuckBoost } from '../model/kinds/buckBoost.ts';
import { FORMAT, VERSION, type ThreadDocument } from '../model/thread.ts';
import { awg } from './wires.ts';

/** A sign that must last a winter: asleep but for a page every ten minutes and a burst of its radio twice an hour. */
export function ferryStop(): ThreadDocument {
  const sign = defaultBuckBoost('sign-rail', 'pack', 3.3);
  const radio = defaultBoost('radio-rail', 'pack', 5);
  return {
    format: FORMAT,
    version: VERSION,
    name: 'Ferry-stop timetable',
    notes:
      'E-paper sign on a quay, 57° north. Its small panel is not counted yet: November to March on the cells.',
    goals: { hours: 151 * 24, shelfMonths: 6 },
    conditions: { minAir: -14, air: 5, maxAir: 25 },
    pack: {
      cell: CELL_LIBRARY['26650-lfp']!,
      series: 1,
      parallel: 4,
      startSoc: 1,
      protection: {
        cutoffVolts: 2.2,
        tripCurrent: 6,
        tripDelay: 0.01,
        resistance: 0.03,
        quiescentCurrent: 3e-6,
        grade: 'typical',
      },
      drains: [{ name: 'Level divider', current: 3.3e-6 }],
      leads: [awg(22, 1)],
      connectors: { contacts: 4, contactResistance: 0.008 },
    },
    stages: [
      {
        ...sign,
        name: 'Sign rail',
        minInput: 1.9,
        loss: { basis: 'efficiency', efficiency: 0.88, quiescentCurrent: 22e-6 },
        inputLimit: 1.5,
        grade: 'typical',
      },
      {
        ...radio,
        name: 'Radio rail',
        minInput: 2.5,
        loss: { basis: 'efficiency', efficiency: 0.85, quiescentCurrent: 1.1e-3 },
        inputLimit: 3,
        shutdownCurrent: 1.2e-6,
        grade: 'claimed',
      },
    ],
    loads: [
      {
        id: 'sign',
        name: 'E-paper sign',
        from: 'sign-rail',
        draw: 'power',
        power: 0.281,
        draws: [
          { mode: 'sleep', value: 45e-6, draw: 'current' },
          { mode: 'burst', value: 45e-6, draw: 'current' },
        ],
        range: { min: 3, max: 3.6 },
        below: 'resets',
        restart: { seconds: 4, value: 0.3 },
        essential: true,
        grade: 'typical',
      },
      {
        id: 'radio',
        name: 'Radio',
        from: 'radio-rail',
        draw: 'power',
        power: 3.1,
        draws: [
          { mode: 'sleep', value: 0 },
          { mode: 'page', value: 0 },
        ],
        range: { min: 4.75, max: 5.25 },
        capacitance: 470e-6,
        essential: true,
        grade: 'claimed',
      },
    ],
    modes: [
      { id: 'burst', name: 'Radio' },
      { id: 'page', name: 'Page' },
      { id: 'sleep', name: 'Sleep' },
    ],
    programme: {
      segments: [
        { mode: 'burst', seconds: 4 },
        { mode: 'page', seconds: 3 },
        { mode: 'sleep', seconds: 593 },
        { mode: 'page', seconds: 3 },
        { mode: 'sleep', seconds: 597 },
        { mode: 'page', seconds: 3 },
        { mode: 'sleep', seconds: 597 },
      ],
      after: 'repeat',
    },
  };
}

import { CELL_LIBRARY } from '../cells/library.ts';
import type { Charging } from '../model/charging.ts';
import { defaultBuck } from '../model/kinds/buck.ts';
import { contractSource } from '../sizing/charging.ts';
import { FORMAT, VERSION, type ThreadDocument } from '../model/thread.ts';
import { awg } from './wires.ts';

/** Forty samples in a day, and a month of waiting. All of it invented. */
export function lakeWaterSampler(): ThreadDocument {
  return {
    format: FORMAT,
    version: VERSION,
    name: 'Lake water sampler',
    notes:
      'Forty samples a day: rinse, fill, drip, then wait until the next one. A month of waiting shows on the shelf.',
    goals: {
      hours: 24,
      shelfMonths: 1,
      chargeHours: 5,
      chargedFrom: 'USB-C 20 V',
      wait: { mode: 'wait', hours: 720 },
      room: { length: 0.175, width: 0.09, height: 0.05 },
      mass: 0.9,
    },
    pack: {
      cell: CELL_LIBRARY['21700-energy']!,
      series: 4,
      parallel: 2,
      startSoc: 1,
      protection: {
        cutoffVolts: 2.6,
        tripCurrent: 15,
        tripDelay: 0.012,
        shortCurrent: 45,
        shortDelay: 0.0003,
        wakeUp: true,
        resistance: 0.012,
        quiescentCurrent: 15e-6,
        grade: 'claimed',
      },
      fuse: { rating: 7.5, resistance: 0.009 },
      drains: [{ name: 'Level divider', current: 6e-6 }],
      leads: [awg(18, 0.6)],
      connectors: { contacts: 4, contactResistance: 0.0015 },
    },
    stages: [
      {
        id: 'pump-rail',
        name: 'Pump rail',
        from: 'pack',
        kind: 'boost',
        outputVolts: 24,
        minInput: 9,
        hysteresis: 0.8,
        maxInput: 22,
        loss: {
          basis: 'polynomial',
          fixed: 0.22,
          perOutputAmp: 0.35,
          perInputAmp: 0.06,
          perInputAmpSquared: 0.055,
          quiescentCurrent: 3.5e-3,
        },
        maxDuty: 0.85,
        inputLimit: 8,
        passResistance: 0.045,
        rectifierVolts: 0.4,
        grade: 'claimed',
      },
      {
        id: 'logger-rail',
        name: 'Logger rail',
        from: 'pack',
        kind: 'buck',
        outputVolts: 3.3,
        minInput: 4.2,
        hysteresis: 0.3,
        maxInput: 24,
        outputLimit: 0.6,
        loss: { basis: 'efficiency', efficiency: 0.88, quiescentCurrent: 28e-6 },
        maxDuty: 0.95,
        dropoutResistance: 0.3,
        grade: 'typical',
      },
    ],
    loads: [
      {
        id: 'pump',
        name: 'Peristaltic pump',
        from: 'pump-rail',
        draw: 'power',
        power: 38,
        draws: [
          { mode: 'fill', value: 26 },
          { mode: 'drip', value: 12 },
          { mode: 'wait', value: 0 },
        ],
        peaks: [{ factor: 1.8, seconds: 0.3 }],
        range: { min: 22, max: 25 },
        below: 'stops',
        essential: true,
        grade: 'claimed',
      },
      {
        id: 'logger',
        name: 'Depth logger',
        from: 'logger-rail',
        draw: 'current',
        current: 0.035,
        draws: [{ mode: 'wait', value: 0.4e-3 }],
        peaks: [{ value: 0.12, seconds: 0.2, mode: 'wait', every: 1080 }],
        range: { min: 3, max: 3.6 },
        essential: true,
        grade: 'typical',
      },
    ],
    modes: [
      { id: 'rinse', name: 'Rinse' },
      { id: 'fill', name: 'Fill' },
      { id: 'drip', name: 'Drip' },
      { id: 'wait', name: 'Wait' },
    ],
    charging: samplerCharging(),
    programme: {
      segments: [
        { mode: 'rinse', seconds: 25 },
        { mode: 'fill', seconds: 50 },
        { mode: 'drip', seconds: 15 },
        { mode: 'wait', seconds: 2070 },
      ],
      after: 'repeat',
      wanted: 40,
    },
  };
}

/** By night from a 45 W source at 20 V, the logger on meanwhile. */
function samplerCharging(): Charging {
  const buck = defaultBuck('charger', 'source', 16.56);
  return {
    source: contractSource(20, 45),
    cable: { gaugeSystem: 'AWG', gauge: 22, length: 1.5, parallel: 1, temperature: 25 },
    contacts: { contacts: 4, contactResistance: 0.012 },
    stage: {
      ...buck,
      name: 'Charger',
      minInput: 6,
      outputLimit: 5,
      maxDuty: 0.97,
      dropoutResistance: 0.11,
      loss: {
        basis: 'polynomial',
        fixed: 0.18,
        perOutputAmp: 0.42,
        perInputAmp: 0.05,
        perInputAmpSquared: 0.09,
        quiescentCurrent: 1.8e-3,
      },
      thermalResistance: 23,
      maxJunction: 125,
      grade: 'claimed',
    },
    control: {
      current: 2.6,
      sense: 'output',
      precharge: { below: 3, current: 0.26, timer: 1 },
      terminate: 0.26,
      deglitch: 20,
      recharge: 4,
      timer: 8,
      inputLimit: 2.1,
      coldest: 0,
      hottest: 45,
      programming: {
        factor: 3600,
        factorTolerance: 0.03,
        fixed: 1200,
        fixedTolerance: 0.01,
        pot: 500,
        potTolerance: 0.2,
        turn: 0.37,
      },
      divider: {
        reference: 0.8,
        referenceTolerance: 0.01,
        top: 197000,
        bottom: 10000,
        resistorTolerance: 0.01,
      },
      trimmed: { meter: 0.005, drift: 0.0025 },
    },
    meanwhile: 'battery',
    mode: 'wait',
    from: 0.01,
    tries: [contractSource(15, 45), contractSource(20, 65), adapter24()],
  };
}

/** An adapter measured under three loads. */
function adapter24(): Charging['source'] {
  return {
    name: 'Adapter 24 V 1.5 A',
    kind: 'readings',
    readings: [
      { amps: 0.5, volts: 25.3 },
      { amps: 1, volts: 25.1 },
      { amps: 1.5, volts: 24.9 },
    ],
    limit: 1.5,
    beyond: 'soft',
    grade: 'measured',
  };
}

import { stopVolts } from '../../charging/volts.ts';
import type { Charging } from '../../model/charging.ts';
import { currentWithin, endWithin } from '../within.ts';
import { around, CHARGER, MINUS, PACK, type StepKind } from './kind.ts';

/** State of charge at which the charge current is read. */
const HALF = 0.5;

/** The control of a charger that holds volts, where there is one. */
function controlOf(charging: Charging | undefined) {
  return charging && 'outputVolts' in charging.stage ? charging.control : undefined;
}

export const chargeStop: StepKind = {
  name: 'charge:stop',
  part: 'charging',
  instrument: 'volts',
  unit: 'V',
  reads: { stopVolts: () => 'charge:stop' },
  shows({ doc: { charging } }) {
    const stop = charging && stopVolts(charging);
    return stop ? [['charge:stop', stop.set]] : [];
  },
  steps({ charging, pack }) {
    const stop = charging && stopVolts(charging);
    if (!stop) return [];
    return [
      {
        id: 'charge:stop',
        title: 'Where the charge stops, no pack on',
        how: 'The charger fed, its output open or on a small load: volts at its output.',
        probes: [CHARGER, MINUS],
        predicted: around(stop.set, stop.likelyMost - stop.set),
        settles: 'Volts the cells are charged to.',
        caution: `Above ${Number((pack.series * pack.cell.fullVolts).toFixed(2))} V no cell is to be connected.`,
      },
    ];
  },
};

export const chargeCurrent: StepKind = {
  name: 'charge:current',
  part: 'charging',
  instrument: 'amps',
  unit: 'A',
  reads: { chargeCurrent: () => 'charge:current' },
  hands: { pack: HALF, charger: true },
  shows({ doc: { charging } }) {
    const control = controlOf(charging);
    return control?.sense === 'output' ? [['charge:current', control.current]] : [];
  },
  steps({ charging }) {
    const control = controlOf(charging);
    if (!control) return [];
    const { current, sense } = control;
    return [
      {
        id: 'charge:current',
        title: 'Charge current',
        how: `The pack half full: the ammeter between charger and pack${sense === 'input' ? '; it is set at the input' : ''}.`,
        probes: [CHARGER, PACK],
        ...(sense === 'output' ? { predicted: around(current, currentWithin(charging!)) } : {}),
        settles: 'Current the charger gives, and whether the source keeps up.',
      },
    ];
  },
};

export const chargeEnd: StepKind = {
  name: 'charge:end',
  part: 'charging',
  instrument: 'amps',
  unit: 'A',
  hands: { watched: true },
  reads: { termination: () => 'charge:end' },
  shows({ doc: { charging } }) {
    const terminate = controlOf(charging)?.terminate;
    return terminate === undefined ? [] : [['charge:end', terminate]];
  },
  steps({ charging }) {
    const terminate = controlOf(charging)?.terminate;
    if (terminate === undefined) return [];
    return [
      {
        id: 'charge:end',
        title: 'Current at which it ends',
        how: 'Watch the last minutes: the current just before it falls to nothing.',
        probes: [CHARGER, PACK],
        predicted: around(terminate, endWithin(charging!)),
        settles: 'How full it is when it says so.',
      },
    ];
  },
};

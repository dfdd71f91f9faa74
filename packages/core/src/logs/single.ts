import type { Pack } from '../model/pack.ts';
import { pchip } from '../numeric/pchip.ts';
import { dischargeFit, inputFit, relaxFit, socFromRest, standbyFit, type Told } from './fits.ts';
import type { Log } from './log.ts';
import { METER } from './meter.ts';

/** What a log by itself may be of. */
export const LOG_KINDS = {
  discharge: 'a discharge of the pack: charge and resistance of a cell, as far as they tell',
  standby: 'days at rest with a small draw: that draw, and how long it leaves something',
  input: 'steps of load of a known power behind a converter: its efficiency and own draw',
  relax: 'a rest behind a load, too short: the volts it would settle at, and the charge these mean',
} as const;
export type LogKind = keyof typeof LOG_KINDS;

/** A figure that a log tells. */
export interface LogFigure extends Partial<Told> {
  key: string;
  value: number;
  /** '' for a plain number */
  unit: string;
  about: string;
}

/** State of charge down to which it is told how long a standby lasts. */
const LITTLE = 0.05;

/**
 * What one log tells of a pack's cells by itself, see `fits.ts`.
 * @param log [V] [A] of the whole pack @param watts [W] to the load, of an `input` log; of each line, or of all
 */
export function logFigures(kind: LogKind, log: Log, pack: Pack, watts: ArrayLike<number> = []): LogFigure[] {
  const { cell, series, parallel, startSoc } = pack;
  const ocv = pchip(cell.ocv.soc, cell.ocv.volts);
  const one: Log = {
    seconds: log.seconds,
    volts: log.volts.map((v) => v / series),
    amps: log.amps.map((a) => a / parallel),
  };
  const figure = (key: string, unit: string, about: string, told: Told | number): LogFigure => ({
    ...{ key, unit, about },
    ...(typeof told === 'number' ? { value: told } : told),
  });
  switch (kind) {
    case 'discharge': {
      const { capacity, resistance, rms } = dischargeFit(one, ocv, startSoc);
      return [
        figure('capacity', 'Ah', 'of a cell', capacity),
        figure('resistance', 'Ω', 'of a cell, its branches with it', resistance),
        figure('rms', 'V', 'left over', rms),
      ];
    }
    case 'standby': {
      const { current, startSoc: from, hoursTo, rms } = standbyFit(one, ocv, cell.capacityAh);
      return [
        figure('current', 'A', 'out of the pack', scaled(current, parallel)),
        figure('startSoc', '', 'state of charge as it began', from),
        figure('hoursLeft', 'h', `from its start down to ${100 * LITTLE} %`, hoursTo(LITTLE)),
        figure('rms', 'V', 'left over', rms),
      ];
    }
    case 'input': {
      const of = log.volts.map((_, k) => watts[Math.min(k, watts.length - 1)]!);
      const { efficiency, standby, rms } = inputFit(log, of);
      return [
        figure('efficiency', '', 'of what stands between', efficiency),
        figure('standby', 'A', 'its own draw', standby),
        figure('rms', 'A', 'left over', rms),
      ];
    }
    case 'relax': {
      const { volts, tau } = relaxFit(one);
      const rested = socFromRest(ocv, volts.value, METER * volts.value);
      return [
        figure('volts', 'V', 'of a cell, where it settles', volts),
        figure('tau', 's', 'in which the rest falls to 1/e', tau),
        figure('soc', '', 'state of charge that means', { value: rested.soc, error: rested.error }),
      ];
    }
  }
}

function scaled({ value, error }: Told, by: number): Told {
  return { value: by * value, error: by * error };
}

import { E96, seriesValues } from '../design/eSeries.ts';
import type { Charging } from '../model/charging.ts';
import type { Edit } from '../model/edit.ts';
import type { Divider } from '../model/parts.ts';
import { formatQuantity } from '../units/formatQuantity.ts';
import { setBy, spreadOf } from './volts.ts';

/** How a charger is brought to volts. */
export interface Setting {
  /** [V] of the pack that it then holds: those asked for, or the next below that its parts can be */
  volts: number;
  /** by which parts, where not by typing */
  by?: string;
  edits: Edit[];
}

const CONTROL = ['charging', 'control'] as const;

/**
 * How a charger's volts can be set. A chip that is fixed cannot be; one with a divider gets another lower resistor of E96, whose
 * volts are those asked for or the next below.
 * @param volts [V] of the pack @returns undefined where nothing sets them
 */
export function settingTo(
  { stage, control }: Pick<Charging, 'stage' | 'control'>,
  volts: number,
): Setting | undefined {
  if (!control || !('outputVolts' in stage)) return undefined;
  const by = setBy(control);
  if (by === 'fixed') return undefined;
  const asked: Edit = { op: 'replace', path: ['charging', 'stage', 'outputVolts'], value: volts };
  if (by !== 'divider') return { volts, edits: [asked] };
  const pair = lower(control.divider!, volts);
  if (!pair) return undefined;
  const { nominal } = spreadOf(pair);
  return {
    volts: nominal,
    by: `${formatQuantity(pair.top, 'Ω')} over ${formatQuantity(pair.bottom, 'Ω')}`,
    edits: [
      { ...asked, value: Number(nominal.toPrecision(4)) },
      { op: 'replace', path: [...CONTROL, 'divider', 'bottom'], value: pair.bottom },
    ],
  };
}

/** The divider with the least lower resistor of E96 by which it stays at or below `volts`. */
function lower(divider: Divider, volts: number): Divider | undefined {
  const { reference, top } = divider;
  if (!(volts > reference)) return undefined;
  const least = (top * reference) / (volts - reference);
  const bottom = seriesValues(E96, least * (1 - 1e-9), 1.1 * least)[0]!;
  return { ...divider, bottom };
}

/** The same charger with its volts at what was read: where its divider sets them, its reference is off by as much. */
export function readAt(
  { stage, control }: Pick<Charging, 'stage' | 'control'>,
  volts: number,
): Pick<Charging, 'stage' | 'control'> {
  if (!control || setBy(control) !== 'divider')
    return { stage: { ...stage, outputVolts: volts } as Charging['stage'], control: control! };
  const divider = control.divider!;
  const reference = (divider.reference * volts) / spreadOf(divider).nominal;
  return { stage, control: { ...control, divider: { ...divider, reference } } };
}

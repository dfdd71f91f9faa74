import {
  isConverter,
  isRegulated,
  type Converter,
  type Regulated,
  type Stage,
} from '../model/kinds/registry.ts';
import type { Capacitor, Inductor, Rectifier, Switch } from '../model/parts.ts';
import { switchingKind } from '../stages/kinds/registry.ts';
import { limitsOf, peakLimitOf } from '../stages/limits.ts';
import type { Stress, WayStress } from '../stages/parts/stress.ts';
import { namedWays, neededInput } from '../stages/traits.ts';
import { junction } from '../design/thermal.ts';

/** One line of the sizing table: what a part carries, and what it may. */
export interface FigureDef {
  id: string;
  /** “Inductor, peak” */
  label: string;
  /** the part in the schematic it belongs to */
  part: PartId;
  unit: string;
  /** what it may reach; the least it may fall to where `floor` */
  rating?: number;
  /** names the rating: “saturates”, “limit” */
  ratingWord?: string;
  floor?: boolean;
  /** NaN where the stage does not work in a way that has it */
  read(at: Reading): number;
}

/** A stage at one operating point. */
export interface Reading {
  /** [V] [A] */
  vin: number;
  vout: number;
  iin: number;
  iout: number;
  /** of stages with parts while they switch */
  stress?: Stress;
  /** [°C] usual air */
  air: number;
}

export type PartId =
  | 'inductor'
  | 'secondInductor'
  | 'main'
  | 'rectifier'
  | 'buckHigh'
  | 'buckLow'
  | 'boostLow'
  | 'boostHigh'
  | 'inputCapacitor'
  | 'outputCapacitor'
  | 'couplingCapacitor'
  | 'controller'
  | 'pass';

/** The lines of a stage's table: its parts in the order of the current, then its two sides. */
export function figuresOf(stage: Stage): FigureDef[] {
  const own = isConverter(stage) ? partFigures(stage) : isRegulated(stage) ? passFigures(stage) : [];
  const { output, input, maxInput } = limitsOf(stage);
  const side: FigureDef['part'] = isConverter(stage) ? 'controller' : 'pass';
  return [
    ...own,
    {
      id: 'outputAmps',
      label: 'Output current',
      part: side,
      unit: 'A',
      ...(output < Infinity ? rated(output, 'limit') : {}),
      read: ({ iout }) => iout,
    },
    {
      id: 'inputAmps',
      label: 'Input current',
      part: side,
      unit: 'A',
      ...(input < Infinity && own.length === 0 ? rated(input, 'limit') : {}),
      read: ({ iin }) => iin,
    },
    {
      id: 'inputVolts',
      label: 'Input volts',
      part: side,
      unit: 'V',
      ...rated(maxInput, 'most'),
      read: ({ vin }) => vin,
    },
  ];
}

/** A stage that lets the current pass and burns what is over. */
function passFigures(stage: Exclude<Regulated, Converter>): FigureDef[] {
  const watts = ({ vin, vout, iin, iout }: Reading) => vin * iin - vout * iout;
  return [
    {
      id: 'headroom',
      label: 'Headroom, above the dropout',
      part: 'pass',
      unit: 'V',
      floor: true,
      read: ({ vin, iout }) => vin - (neededInput(stage, iout) ?? stage.outputVolts),
    },
    { id: 'dissipation', label: 'Turns into heat', part: 'pass', unit: 'W', read: watts },
    {
      id: 'junction',
      label: 'Junction, usual air',
      part: 'pass',
      unit: '°C',
      ...rated(stage.maxJunction, 'limit'),
      read: (at) => junction(at.air, stage.thermalResistance, watts(at)),
    },
  ];
}

function partFigures(stage: Converter): FigureDef[] {
  const { parts } = stage;
  if (!parts) return [];
  const list: PartFigure[] = [
    ...winding('inductor', 'Inductor', parts.inductor, (s) => s.inductor),
    {
      id: 'peakLimit',
      label: switchingKind(stage.kind).peakLabel,
      part: 'controller',
      unit: 'A',
      rating: peakLimitOf(stage),
      ratingWord: 'limit',
      read: (s) => (s.secondInductor ? s.ways.c.peak : s.inductor.peak),
    },
  ];
  if ('secondInductor' in parts) {
    const { secondInductor, couplingCapacitor } = parts;
    list.push(
      ...winding('secondInductor', 'Second inductor', secondInductor, (s) => s.secondInductor!),
      capacitorRms('couplingCapacitor', 'Coupling capacitor', couplingCapacitor, (s) => s.coupling!.rms),
    );
  }
  for (const { id, name, way, part } of namedWays(stage))
    list.push(...conductor(id, name, part, (s) => s.ways[way]));
  list.push(
    capacitorRms('inputCapacitor', 'Input capacitor', parts.inputCapacitor, (s) => s.input.rms),
    capacitorRms('outputCapacitor', 'Output capacitor', parts.outputCapacitor, (s) => s.output.rms),
    {
      id: 'outputRipple',
      label: 'Output ripple',
      part: 'outputCapacitor',
      unit: 'V',
      ...rated(parts.rippleAllowed, 'allowed'),
      read: (s) => s.output.ripple,
    },
    {
      id: 'inputRipple',
      label: 'Input ripple',
      part: 'inputCapacitor',
      unit: 'V',
      read: (s) => s.input.ripple,
    },
    {
      id: 'onTime',
      label: 'On-time',
      part: 'controller',
      unit: 's',
      rating: parts.minOnTime,
      ratingWord: 'least',
      floor: true,
      read: (s) => s.duty / s.frequency,
    },
    {
      id: 'duty',
      label: 'Duty',
      part: 'controller',
      unit: '%',
      ...('maxDuty' in stage ? rated(100 * stage.maxDuty, 'most') : {}),
      read: (s) => 100 * s.duty,
    },
  );
  // Taken over rather than copied: the list is ours alone, and this is asked often.
  return list.map((line) => {
    const { read } = line;
    return Object.assign(line, { read: ({ stress }: Reading) => (stress ? read(stress) : NaN) });
  });
}

/** A line that needs the period. */
interface PartFigure extends Omit<FigureDef, 'read'> {
  read(s: Stress): number;
}

function rated(rating: number | undefined, ratingWord: string) {
  return rating === undefined ? {} : { rating, ratingWord };
}

function winding(
  part: 'inductor' | 'secondInductor',
  name: string,
  inductor: Inductor,
  of: (s: Stress) => Stress['inductor'],
): PartFigure[] {
  return [
    {
      id: `${part}Peak`,
      label: `${name}, peak`,
      part,
      unit: 'A',
      ...rated(inductor.saturationCurrent, 'saturates'),
      read: (s) => of(s).peak,
    },
    {
      id: `${part}Rms`,
      label: `${name}, RMS`,
      part,
      unit: 'A',
      ...rated(inductor.rmsCurrent, 'rated'),
      read: (s) => of(s).rms,
    },
    { id: `${part}Ripple`, label: `${name}, ripple`, part, unit: 'A', read: (s) => of(s).ripple },
  ];
}

function conductor(
  part: PartId,
  name: string,
  model: Rectifier | Switch,
  of: (s: Stress) => WayStress,
): PartFigure[] {
  const diode = model.type === 'diode';
  return [
    {
      id: `${part}Amps`,
      label: `${name}, ${diode ? 'mean' : 'RMS'}`,
      part,
      unit: 'A',
      ...rated(model.maxAmps, 'rated'),
      read: (s) => (diode ? of(s).mean : of(s).rms),
    },
    {
      id: `${part}Volts`,
      label: `${name}, blocks`,
      part,
      unit: 'V',
      ...rated(model.maxVolts, 'stands'),
      read: (s) => of(s).volts,
    },
  ];
}

function capacitorRms(part: PartId, name: string, model: Capacitor, read: (s: Stress) => number): PartFigure {
  const rating = model.rippleCurrent && model.rippleCurrent * model.count;
  return { id: `${part}Rms`, label: `${name}, RMS`, part, unit: 'A', ...rated(rating, 'rated'), read };
}

import type { Converter } from '../model/kinds/registry.ts';
import type { Capacitor, Inductor, Rectifier, Switch } from '../model/parts.ts';
import type { Stress, WayStress } from '../stages/parts/stress.ts';

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
  read(s: Stress): number;
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
  | 'controller';

/** The lines of a stage's table, in the order of the current. */
export function figuresOf(stage: Converter): FigureDef[] {
  const { parts } = stage;
  if (!parts) return [];
  const list: FigureDef[] = [
    ...winding('inductor', 'Inductor', parts.inductor, (s) => s.inductor),
    {
      id: 'peakLimit',
      label: stage.kind === 'sepic' ? 'Switch, peak' : 'Peak against the limit',
      part: 'controller',
      unit: 'A',
      rating: parts.peakLimit,
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
  if (stage.kind === 'buckBoost') {
    const p = stage.parts!;
    const legs = [
      ['buckHigh', 'S1', 'a', p.buckHigh],
      ['buckLow', 'S2', 'b', p.buckLow],
      ['boostLow', 'S3', 'c', p.boostLow],
      ['boostHigh', 'S4', 'd', p.boostHigh],
    ] as const;
    for (const [id, name, way, part] of legs) list.push(...conductor(id, name, part, (s) => s.ways[way]));
  } else {
    const p = stage.parts!;
    const buck = stage.kind === 'buck';
    list.push(...conductor('main', 'Switch', p.main, (s) => (buck ? s.ways.a : s.ways.c)));
    const name = p.rectifier.type === 'diode' ? 'Diode' : 'Rectifier switch';
    list.push(...conductor('rectifier', name, p.rectifier, (s) => (buck ? s.ways.b : s.ways.d)));
  }
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
  return list;
}

function rated(rating: number | undefined, ratingWord: string) {
  return rating === undefined ? {} : { rating, ratingWord };
}

function winding(
  part: 'inductor' | 'secondInductor',
  name: string,
  inductor: Inductor,
  of: (s: Stress) => Stress['inductor'],
): FigureDef[] {
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
): FigureDef[] {
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

function capacitorRms(part: PartId, name: string, model: Capacitor, read: (s: Stress) => number): FigureDef {
  const rating = model.rippleCurrent && model.rippleCurrent * model.count;
  return { id: `${part}Rms`, label: `${name}, RMS`, part, unit: 'A', ...rated(rating, 'rated'), read };
}

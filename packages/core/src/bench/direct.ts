import { sourceLaw } from '../charging/source.ts';
import { sourceKind } from '../charging/sources/registry.ts';
import { readAt } from '../charging/setting.ts';
import { stopVolts } from '../charging/volts.ts';
import type { FigureKind } from '../belief/figures.ts';
import type { Spread } from '../belief/spread.ts';
import type { Grade } from '../model/grade.ts';
import { isRegulated, type Stage } from '../model/kinds/registry.ts';
import type { Source } from '../model/sources/registry.ts';
import type { ThreadDocument } from '../model/thread.ts';
import type { SetKind } from './steps/kind.ts';
import { currentWithin, CUTOFF, droopWithin, endWithin, OPEN, setWithin, TRIP } from './within.ts';

/** A figure of a thread, of the run-down's or one that is set. */
export interface BenchFigure extends Spread {
  id: string;
  element: string;
  kind: FigureKind | SetKind;
  grade: Grade;
  /** share of what is stated within which 95 of 100 are, or all of an even one */
  tolerance: number;
}

/** A figure that is set, and what a thread is with another value of it. */
export interface SetFigure {
  figure: BenchFigure;
  /** as stated, in V, A or Ω */
  value: number;
  with(doc: ThreadDocument, value: number): ThreadDocument;
}

/** Everything of a thread that is set and can be read as it is. */
export function setFigures(doc: ThreadDocument): SetFigure[] {
  return [...stageFigures(doc), ...chargingFigures(doc), ...boardFigures(doc)];
}

function of(element: string, kind: SetKind, grade: Grade, tolerance: number): BenchFigure {
  return { id: `${element}.${kind}`, element, kind, grade, tolerance, distribution: 'normal' };
}

function stageFigures({ stages }: ThreadDocument): SetFigure[] {
  return stages.filter(isRegulated).map((stage) => ({
    figure: of(stage.id, 'setPoint', stage.grade, setWithin(stage) / stage.outputVolts),
    value: stage.outputVolts,
    with: (doc, outputVolts) => ({
      ...doc,
      stages: doc.stages.map((s) => (s.id === stage.id ? ({ ...s, outputVolts } as Stage) : s)),
    }),
  }));
}

function boardFigures({ pack }: ThreadDocument): SetFigure[] {
  const { protection } = pack;
  if (!protection) return [];
  const { cutoffVolts, tripCurrent, grade } = protection;
  return [
    {
      figure: of('protection', 'cutoff', grade, CUTOFF / cutoffVolts),
      value: cutoffVolts,
      with: (doc, volts) => ({
        ...doc,
        pack: { ...doc.pack, protection: { ...doc.pack.protection!, cutoffVolts: volts } },
      }),
    },
    {
      figure: of('protection', 'trip', grade, TRIP),
      value: tripCurrent,
      with: (doc, amps) => ({
        ...doc,
        pack: { ...doc.pack, protection: { ...doc.pack.protection!, tripCurrent: amps } },
      }),
    },
  ];
}

function chargingFigures({ charging }: ThreadDocument): SetFigure[] {
  if (!charging) return [];
  const { source, control, stage } = charging;
  const found = sourceFigures(source);
  if (!control || !('outputVolts' in stage)) return found;
  const set = (
    kind: SetKind,
    value: number,
    tolerance: number,
    change: (value: number) => object,
  ): SetFigure => ({
    figure: of('charger', kind, stage.grade, tolerance),
    value,
    with: (doc, next) => ({ ...doc, charging: { ...doc.charging!, ...change(next) } }),
  });
  const stop = stopVolts(charging)!;
  found.push(set('stopVolts', stop.set, stop.likelyMost / stop.set - 1, (volts) => readAt(charging, volts)));
  if (control.sense === 'output') {
    const within = currentWithin(charging) / control.current;
    found.push(
      set('chargeCurrent', control.current, within, (current) => ({ control: { ...control, current } })),
    );
  }
  if (control.terminate !== undefined) {
    found.push(
      set('termination', control.terminate, endWithin(charging) / control.terminate, (terminate) => ({
        control: { ...control, terminate },
      })),
    );
  }
  return found;
}

function sourceFigures(source: Source): SetFigure[] {
  const { open, droop } = sourceLaw(source);
  const to = (kind: 'openVolts' | 'droop', value: number, tolerance: number): SetFigure => ({
    figure: of('source', kind, source.grade, tolerance),
    value,
    with: (doc, next) => ({
      ...doc,
      charging: { ...doc.charging!, source: withCurve(doc.charging!.source, kind, next) },
    }),
  });
  // A contract's volts are what was agreed on.
  const volts = sourceKind(source).agreed ? [] : [to('openVolts', open, OPEN)];
  return droop > 0 ? [...volts, to('droop', droop, droopWithin(source))] : volts;
}

/** A source with other open volts or another droop. */
function withCurve(source: Source, kind: 'openVolts' | 'droop', value: number): Source {
  const { open, droop } = sourceLaw(source);
  const curve = kind === 'droop' ? { open, droop: value } : { open: value, droop };
  return sourceKind(source).withCurve(source, curve) as Source;
}

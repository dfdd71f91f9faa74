import type { ThreadDocument } from '../model/thread.ts';
import type { FigureTolerance } from '../model/belief.ts';
import { USUAL_TOLERANCES } from '../model/belief.ts';
import type { Grade } from '../model/grade.ts';
import type { Load } from '../model/load.ts';
import type { Conditions } from '../plant/conditions.ts';
import { stageGrade } from '../run/reading/grades.ts';
import { ownDrawOf, withLoss, withOwnDraw } from './loss.ts';
import type { Spread } from './spread.ts';

/** A thread with its figures off by something, and the conditions it is run under where they are not its own. */
export interface Varied {
  doc: ThreadDocument;
  conditions?: Partial<Conditions>;
}

/** What kind of figure may be off. */
export const FIGURES = ['capacity', 'resistance', 'selfDischarge', 'loss', 'ownDraw', 'draw'] as const;
export type FigureKind = (typeof FIGURES)[number];

/** A figure of a thread that may be off. */
export interface Figure extends Spread {
  /** `cells.capacity`, or a stage's or load's id with `.loss`, `.ownDraw`, `.draw` */
  id: string;
  /** `cells`, or the id of a stage or load */
  element: string;
  kind: FigureKind;
  grade: Grade;
  /** share of what is stated within which 95 of 100 are, or all of an even one */
  tolerance: number;
}

/** Least a factor may be: no figure turns to nothing or against itself. */
const LEAST = 0.05;

/** Every figure of a thread that its runtime rests on and that may be off. */
export function figuresOf(doc: ThreadDocument): Figure[] {
  const { byGrade, own = [] } = doc.belief ?? {};
  const figures: Figure[] = [];
  const add = (element: string, kind: FigureKind, grade: Grade) => {
    const id = `${element}.${kind}`;
    const said: FigureTolerance | undefined = own.find((o) => o.figure === id);
    const tolerance = said?.tolerance ?? byGrade?.[grade] ?? USUAL_TOLERANCES[grade];
    const distribution = said?.distribution ?? 'normal';
    figures.push({ id, element, kind, grade, tolerance, distribution });
  };
  const { cell } = doc.pack;
  add('cells', 'capacity', cell.grade);
  add('cells', 'resistance', cell.grade);
  if (cell.selfDischargePerMonth > 0) add('cells', 'selfDischarge', cell.grade);
  for (const stage of doc.stages) {
    const grade = stageGrade(stage);
    add(stage.id, 'loss', grade);
    if (ownDrawOf(stage) > 0) add(stage.id, 'ownDraw', grade);
  }
  for (const load of doc.loads) add(load.id, 'draw', load.grade);
  return figures;
}

/** What a score makes of a figure, as a factor. */
export function factorOf(
  { distribution, tolerance }: Pick<Figure, 'distribution' | 'tolerance'>,
  score: number,
): number {
  const by = distribution === 'normal' ? tolerance / 2 : tolerance;
  return Math.max(LEAST, 1 + by * score);
}

/** A thread whose figures are off by scores, in the order of its figures. @param under conditions not its own */
export function drawn(
  doc: ThreadDocument,
  figures: readonly Figure[],
  scores: ArrayLike<number>,
  under: Partial<Conditions> = {},
): Varied {
  const factors = new Map(figures.map((f, k) => [f.id, factorOf(f, scores[k]!)]));
  const by = (element: string, kind: FigureKind) => factors.get(`${element}.${kind}`) ?? 1;
  return {
    doc: {
      ...doc,
      stages: doc.stages.map((s) => withOwnDraw(withLoss(s, by(s.id, 'loss')), by(s.id, 'ownDraw'))),
      loads: doc.loads.map((l) => withDraw(l, by(l.id, 'draw'))),
    },
    conditions: {
      ...under,
      capacity: (under.capacity ?? 1) * by('cells', 'capacity'),
      resistance: (under.resistance ?? 1) * by('cells', 'resistance'),
      selfDischarge: (under.selfDischarge ?? 1) * by('cells', 'selfDischarge'),
    },
  };
}

/** A load that draws so many times as much: a resistance, and the slope of a string, are then as much smaller. */
function withDraw(load: Load, by: number): Load {
  const draws = load.draws?.map((d) => {
    const kind = d.draw ?? load.draw;
    return kind === 'string' ? d : { ...d, value: kind === 'resistance' ? d.value / by : d.value * by };
  });
  const rest = draws ? { draws } : {};
  if (load.draw === 'string') return { ...load, ...rest, slope: load.slope! / by };
  const value = load[load.draw]!;
  return { ...load, ...rest, [load.draw]: load.draw === 'resistance' ? value / by : value * by };
}

import { Choice, Flag, Part, Parts, Quantity, Text } from './fields.ts';
import type { Grade } from './grade.ts';
import { CellGroup } from './group.ts';

/** How far figures may be off by where they come from: two standard deviations. Common practice, no source. */
export const USUAL_TOLERANCES: Readonly<Record<Grade, number>> = {
  measured: 0.02,
  published: 0.05,
  typical: 0.1,
  claimed: 0.15,
  assumed: 0.25,
};

const ABOUT = 'Figures of this grade may be off by so much, as a share: 95 of 100 are within';

/** The same where a thread says it otherwise. */
export class GradeTolerances {
  @Quantity('', 0, 0.9, ABOUT, { optional: true })
  measured?: number;
  @Quantity('', 0, 0.9, ABOUT, { optional: true })
  published?: number;
  @Quantity('', 0, 0.9, ABOUT, { optional: true })
  typical?: number;
  @Quantity('', 0, 0.9, ABOUT, { optional: true })
  claimed?: number;
  @Quantity('', 0, 0.9, ABOUT, { optional: true })
  assumed?: number;
}

/** How a figure may be off: mostly near what is stated, or anywhere within its tolerance. */
export const DISTRIBUTIONS = ['normal', 'uniform'] as const;

/** How far one figure may be off, whatever its grade. */
export class FigureTolerance {
  @Text(60, 'Which figure, such as `cells.capacity` or `camera.draw`')
  figure!: string;
  @Quantity('', 0, 0.9, 'How far it may be off, as a share of what is stated', { label: 'Tolerance' })
  tolerance!: number;
  @Choice(DISTRIBUTIONS, 'Mostly near what is stated, or anywhere within', { optional: true })
  distribution?: (typeof DISTRIBUTIONS)[number];
}

/** What is to be believed of a thread's figures. */
export class Belief {
  @Flag('How long it lasts is shown as a range', { optional: true, label: 'As a range' })
  asRange?: boolean;
  @Part(() => GradeTolerances, 'Tolerances by grade where not the usual ones', { optional: true })
  byGrade?: GradeTolerances;
  @Parts(() => FigureTolerance, [0, 64], 'Tolerances of single figures', { optional: true })
  own?: FigureTolerance[];
  @Quantity('', 0.1, 1, 'Charge an aged cell holds, of that when new', {
    optional: true,
    label: 'Aged, charge left',
  })
  agedCapacity?: number;
  @Quantity('', 1, 20, 'Resistance of an aged cell over that when new', {
    optional: true,
    label: 'Aged, resistance',
  })
  agedResistance?: number;
  @Quantity('years', 0, 30, 'Years of use after which it is looked at again', {
    optional: true,
    label: 'Later, years',
  })
  years?: number;
  @Quantity('', 0, 10000, 'Runs a year from full to its end', { optional: true, label: 'Runs a year' })
  runsAYear?: number;
  @Part(() => CellGroup, 'The weakest group where none is measured; the usual of one lot where left out', {
    optional: true,
    label: 'Weakest group',
  })
  weakest?: CellGroup;
}

/** Looked at again after two years of a run a week, where nothing is said. Common practice, no source. */
export const LATER = { years: 2, runsAYear: 52 } as const;

/** What a cell is worth at the end of its usual life: 80 % of the charge, 1.6 of the resistance. Common practice, no source. */
export const AGED = { capacity: 0.8, resistance: 1.6 } as const;

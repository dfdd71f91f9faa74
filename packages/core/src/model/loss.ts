import { Choice, Quantity, Rows } from './fields.ts';

/** What every way to state a converter's loss shares. */
export class LossModel {
  @Choice(['efficiency', 'polynomial', 'points'], 'How the loss is given')
  basis!: string;
  @Quantity('A', 0, 1, 'Current the stage itself draws from its input, load or not')
  quiescentCurrent!: number;
}

/** Depth `claimed`: one efficiency for everything. */
export class EfficiencyLoss extends LossModel {
  declare basis: 'efficiency';
  @Quantity('', 0.05, 1, 'Output power over input power, without the quiescent current')
  efficiency!: number;
}

/** Depth `claimed`: loss = fixed + a·Iout + b·Iin + c·Iin². */
export class PolynomialLoss extends LossModel {
  declare basis: 'polynomial';
  @Quantity('W', 0, 1e4, 'Loss that is always there', { label: 'Fixed loss' })
  fixed!: number;
  @Quantity('V', 0, 100, 'Loss per ampere of output', { label: 'Loss per output A' })
  perOutputAmp!: number;
  @Quantity('V', 0, 100, 'Loss per ampere of input', { label: 'Loss per input A' })
  perInputAmp!: number;
  @Quantity('Ω', 0, 100, 'Loss per square ampere of input', { label: 'Loss per input A²' })
  perInputAmpSquared!: number;
}

/** One reading of a converter: exactly one of efficiency and input current is given. */
export class LossPoint {
  @Quantity('V', 0.1, 1000, 'Input volts')
  inputVolts!: number;
  @Quantity('A', 0, 2000, 'Output current')
  outputAmps!: number;
  @Quantity('', 0.001, 1, 'Output power over input power', { optional: true })
  efficiency?: number;
  @Quantity('A', 0, 2000, 'Input current', { optional: true })
  inputAmps?: number;
}

/** Depth `measured`: readings over input volts and output current; loss power is interpolated. */
export class PointsLoss extends LossModel {
  declare basis: 'points';
  @Rows(() => LossPoint, [2, 2000], 'Readings')
  points!: LossPoint[];
}

export const LOSS_VARIANTS = {
  property: 'basis',
  classes: { efficiency: EfficiencyLoss, polynomial: PolynomialLoss, points: PointsLoss },
};
export type Loss = EfficiencyLoss | PolynomialLoss | PointsLoss;

import type { Plant } from '../../plant/compile.ts';
import type { Keeper } from './keeper.ts';
import type { DeadReason } from '../account/result.ts';

/** A charger's thermistor: it does not let a charge begin in the cold or the heat. */
export class Thermistor implements Keeper {
  /** what keeps it from beginning */
  readonly why: 'cold' | 'hot' | undefined;

  constructor({ charger, conditions }: Plant) {
    const { coldest = -Infinity, hottest = Infinity } = charger!.charging.control ?? {};
    const { air } = conditions;
    this.why = air < coldest ? 'cold' : air > hottest ? 'hot' : undefined;
  }

  ended(): DeadReason | undefined {
    return this.why && 'charged';
  }
}

import type { Plant } from '../../plant/compile.ts';
import type { Keeper } from './keeper.ts';
import type { DeadReason } from '../account/result.ts';

/** A charger's thermistor: it does not let a charge begin in the cold or the heat. */
export class Thermistor implements Keeper {
  /** what keeps it from beginning */
  why: 'cold' | 'hot' | undefined;

  constructor(private readonly plant: Plant) {}

  prepare(): void {
    const { charger, conditions, path } = this.plant;
    const { coldest = -Infinity, hottest = Infinity } = charger!.charging.control ?? {};
    const { air } = conditions;
    this.why = air < coldest ? 'cold' : air > hottest ? 'hot' : undefined;
    if (!this.why) return;
    charger!.set('off', { on: false, amps: 0 }, {});
    path.fedAnew();
  }

  ended(): DeadReason | undefined {
    return this.why && 'charged';
  }
}

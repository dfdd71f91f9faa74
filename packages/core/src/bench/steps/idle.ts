import { USUAL_TOLERANCES } from '../../model/belief.ts';
import { around, PACK, type StepKind } from './kind.ts';

export const idle: StepKind = {
  name: 'idle',
  part: 'idle',
  instrument: 'amps',
  unit: 'A',
  hands: { pack: 'full' },
  shows: (seen) => [['idle', seen.idle]],
  steps({ pack }, found) {
    const known = found.get('idle')!;
    // What the board draws is no figure that is drawn: its grade says how far it may be off.
    const own = around(known.value, USUAL_TOLERANCES[pack.protection?.grade ?? 'typical'] * known.value);
    const predicted = known.p90 - known.p10 > own.p90 - own.p10 ? known : own;
    if (!(predicted.value > 0)) return [];
    return [
      {
        id: 'idle',
        title: 'Idle current',
        how: 'Every load off: the ammeter in the positive lead, bridged while it is connected.',
        probes: [PACK, PACK],
        predicted,
        settles: 'Own draw of the stages and the board, and with it how long it keeps on the shelf.',
        caution: 'An ammeter is nearly a wire: never across the poles.',
      },
    ];
  },
};

import type { TwoSwitchParts } from '../../model/parts.ts';
import type { NamedWay } from './kind.ts';

/** The two parts of a stage with one switch and one rectifier, by the ways they stand on. */
export function twoWays(parts: TwoSwitchParts, main: 'a' | 'c', rectifier: 'b' | 'd'): NamedWay[] {
  const diode = parts.rectifier.type === 'diode';
  return [
    { id: 'main', name: 'Switch', way: main, part: parts.main },
    { id: 'rectifier', name: diode ? 'Diode' : 'Rectifier switch', way: rectifier, part: parts.rectifier },
  ];
}

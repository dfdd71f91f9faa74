/** Equilibrium potential [V] of an electrode over its stoichiometry. */
type Potential = (x: number) => number;

/** [V] Graphite-SiOx against lithium. Chen et al., J. Electrochem. Soc. 167 (2020) 080534 (from memory). */
export const graphiteSiliconChen2020: Potential = (x) =>
  1.9793 * Math.exp(-39.3631 * x) +
  0.2482 -
  0.0909 * Math.tanh(29.8538 * (x - 0.1234)) -
  0.04478 * Math.tanh(14.9159 * (x - 0.2769)) -
  0.0205 * Math.tanh(30.4444 * (x - 0.6103));

/** [V] NMC 811 against lithium. Chen et al., J. Electrochem. Soc. 167 (2020) 080534 (from memory). */
export const nmcChen2020: Potential = (y) =>
  -0.809 * y +
  4.4875 -
  0.0428 * Math.tanh(18.5138 * (y - 0.5542)) -
  17.7326 * Math.tanh(15.789 * (y - 0.3117)) +
  17.5842 * Math.tanh(15.9308 * (y - 0.312));

/** [V] Graphite against lithium. Safari and Delacourt, J. Electrochem. Soc. 158 (2011) A562 (from memory). */
export const graphiteSafari2011: Potential = (x) =>
  0.6379 +
  0.5416 * Math.exp(-305.5309 * x) +
  0.044 * Math.tanh(-(x - 0.1958) / 0.1088) -
  0.1978 * Math.tanh((x - 1.0571) / 0.0854) -
  0.6875 * Math.tanh((x + 0.0117) / 0.0529) -
  0.0175 * Math.tanh((x - 0.5692) / 0.0875);

/** [V] LFP against lithium. Safari and Delacourt, J. Electrochem. Soc. 158 (2011) A562 (from memory). */
export const lfpSafari2011: Potential = (y) =>
  3.4323 -
  0.8428 * Math.exp(-80.2493 * (1 - y) ** 1.3198) -
  3.2474e-6 * Math.exp(20.2645 * (1 - y) ** 3.8003) +
  3.2482e-6 * Math.exp(20.2646 * (1 - y) ** 3.7995);

/** Stoichiometry of both electrodes at empty and full. */
export interface Windows {
  negative: readonly [empty: number, full: number];
  positive: readonly [empty: number, full: number];
}

/** Electrode windows as printed by Chen et al. 2020 (from memory): they give 2.498 V empty and 4.193 V full. */
export const CHEN_2020_WINDOWS: Windows = { negative: [0.0279, 0.9014], positive: [0.9084, 0.2661] };

/** Windows assumed for the LFP curve; no source. */
export const LFP_WINDOWS: Windows = { negative: [0.01, 0.8], positive: [0.98, 0.03] };

/** OCV of a full cell over state of charge: positive minus negative potential, stoichiometries linear in charge. */
export function fullCellOcv(positive: Potential, negative: Potential, windows: Windows): Potential {
  const at = ([empty, full]: readonly [number, number], s: number) => empty + s * (full - empty);
  return (s) => positive(at(windows.positive, s)) - negative(at(windows.negative, s));
}

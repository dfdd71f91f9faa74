/**
 * The arithmetic of a run-down and nothing else: the yardstick of the benchmark. One fixed path (buck-boost,
 * buck, linear behind the buck), loads and losses as constants, tables by index, no events, no modes, no
 * records, fixed steps. What a careful person would write by hand for this one design.
 */
export function plainLoop(ocv: Float64Array, r0: Float64Array, steps: number): number {
  const last = ocv.length - 1;
  const capacity = 3.2 * 3600;
  let soc = 1;
  let time = 0;
  let v1 = 0;
  let v2 = 0;
  let volts = 12.3;
  let toLoads = 0;
  let heat = 0;
  const rows = new Float64Array(steps * 28);
  for (let k = 0; k < steps; k++) {
    const at = soc * last;
    const n = Math.min(last - 1, at | 0);
    const e = ocv[n]! + (at - n) * (ocv[n + 1]! - ocv[n]!);
    const r = r0[n]! + (at - n) * (r0[n + 1]! - r0[n]!);
    const open = 3 * (e - v1 - v2);
    const ohms = 3 * r + 0.09;
    let amps = 0;
    let lamp = 0;
    let camera = 0;
    for (let turn = 0; turn < 3; turn++) {
      const loss = 0.12 + 0.3 * 0.55 + 0.05 * 0.55 * 0.55 + 0.002 * (volts - 9);
      lamp = (9 * 0.55 + loss) / volts;
      camera = (2.1 + 5 * 0.080075) / (0.905 * volts) + 2.2e-3;
      amps = lamp + camera + 8e-6;
      volts = open - ohms * amps;
    }
    const h = ((capacity / steps) * 0.97) / amps;
    const d1 = Math.exp(-h / 12);
    const d2 = Math.exp(-h / 400);
    v1 = amps * 0.013 + (v1 - amps * 0.013) * d1;
    v2 = amps * 0.013 + (v2 - amps * 0.013) * d2;
    const out = 9 * 0.55 + 2.1 + 3.3 * 0.08;
    toLoads += out * h;
    heat += (open * amps - out) * h;
    soc -= (amps * h) / capacity;
    time += h;
    const row = k * 28;
    rows[row] = time;
    rows[row + 1] = soc;
    rows[row + 2] = e;
    rows[row + 3] = volts;
    rows[row + 4] = amps;
    for (let c = 5; c < 28; c++) rows[row + c] = volts * amps;
  }
  return time + toLoads + heat + rows[28 * 7]!;
}

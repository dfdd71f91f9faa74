/** A rail that loses what feeds it, until the backup carries. SI units. */
export interface Transfer {
  /** [V] of the rail before, [F] [Ω] of its capacitor */
  rail: number;
  farads: number;
  esr: number;
  /** [W] of the loads, constant */
  watts: number;
  /** [s] until the backup carries */
  seconds: number;
  /** [V] of the backup behind its drop, and [Ω] to the rail */
  backup: number;
  ohms: number;
}

/** What a rail does while it is handed over. [V] [A] [F] */
export interface HandedOver {
  /** at the first instant, at the lowest, and where it settles; 0 where the capacitor does not carry that far */
  first: number;
  lowest: number;
  settles: number;
  /** from the backup as it takes over */
  inrush: number;
}

/** Steps of the way down: of fourth order, so that more of them change nothing that is shown. */
const STEPS = 400;

/** [V] of a rail on a capacitor at `v` behind its resistance under constant power; NaN where it gives way. */
function railOn(v: number, esr: number, watts: number): number {
  const square = v * v - 4 * esr * watts;
  return square >= 0 ? (v + Math.sqrt(square)) / 2 : NaN;
}

/**
 * The dip of a rail at a transfer: its capacitor alone carries constant power through its own resistance, C·dv/dt = −P/V with
 * V = v − ESR·P/V, by Runge and Kutta; then the backup takes over behind its resistance, the capacitor still giving. Kirchhoff.
 */
export function handOver({ rail, farads, esr, watts, seconds, backup, ohms }: Transfer): HandedOver {
  const amps = (v: number) => watts / railOn(v, esr, watts);
  const h = seconds / STEPS;
  let v = rail;
  for (let k = 0; k < STEPS; k++) {
    const a = -amps(v) / farads;
    const b = -amps(v + (h / 2) * a) / farads;
    const c = -amps(v + (h / 2) * b) / farads;
    const d = -amps(v + h * c) / farads;
    v += (h / 6) * (a + 2 * b + 2 * c + d);
  }
  const lowest = railOn(v, esr, watts);
  const settled = railOn(backup, ohms, watts);
  if (Number.isNaN(lowest)) return { first: railOn(rail, esr, watts), lowest: 0, settles: 0, inrush: 0 };
  return {
    first: railOn(rail, esr, watts),
    lowest,
    settles: Number.isNaN(settled) ? 0 : settled,
    inrush: takenOver(v, esr, watts, backup, ohms),
  };
}

/** [s] [V] the rail through a transfer and as long again twice over, for drawing; ends where it gives way. */
export function handOverCourse(task: Transfer): { seconds: number[]; volts: number[] } {
  const { rail, farads, esr, watts, seconds, backup, ohms } = task;
  const h = seconds / STEPS;
  const course = { seconds: [-seconds / 4, 0], volts: [rail, rail] };
  let v = rail;
  for (let k = 0; k <= 3 * STEPS; k++) {
    const there = k < STEPS ? railOn(v, esr, watts) : nodeOf(v, esr, watts, backup, ohms);
    if (!(there > 0)) break;
    if (k % SHOWN === 0) {
      course.seconds.push(k * h);
      course.volts.push(there);
    }
    // What the load takes and the backup does not give comes from the capacitor.
    const given = k < STEPS ? 0 : Math.max(0, (backup - there) / ohms);
    v -= (h / farads) * (watts / there - given);
  }
  return course;
}

/** Steps of a course for each point that is drawn. */
const SHOWN = 12;

/**
 * [A] from the backup the moment it takes over: the node between it and the capacitor carries the load,
 * (Vb − V)/R + (v − V)/ESR = P/V.
 */
function takenOver(v: number, esr: number, watts: number, backup: number, ohms: number): number {
  return Math.max(0, (backup - nodeOf(v, esr, watts, backup, ohms)) / ohms);
}

/** [V] of that node. */
function nodeOf(v: number, esr: number, watts: number, backup: number, ohms: number): number {
  const r = Math.max(esr, 1e-9);
  const g = 1 / ohms + 1 / r;
  const b = backup / ohms + v / r;
  const node = (b + Math.sqrt(Math.max(0, b * b - 4 * g * watts))) / (2 * g);
  // Above the backup the capacitor is alone.
  return node > backup ? railOn(v, esr, watts) : node;
}

/** [F] least capacitance with which a rail stays above `least` volts through a transfer; Infinity where none does. */
export function rideThrough(task: Transfer, least: number): number {
  // By its charge alone, V² = V0² − 2·P·t/C, whatever is lost in the capacitor comes on top.
  const bare = (2 * task.watts * task.seconds) / (task.rail ** 2 - least ** 2);
  if (!(bare > 0)) return Infinity;
  let low = bare / 2;
  let high = bare;
  for (let n = 0; n < 12 && handOver({ ...task, farads: high }).lowest < least; n++) high *= 2;
  if (handOver({ ...task, farads: high }).lowest < least) return Infinity;
  for (let n = 0; n < 50; n++) {
    const middle = (low + high) / 2;
    if (handOver({ ...task, farads: middle }).lowest < least) low = middle;
    else high = middle;
  }
  return high;
}

import type { Converter } from '../model/kinds/registry.ts';
import type { Bridge, Way } from '../stages/parts/bridge.ts';
import type { Period } from '../stages/parts/period.ts';
import { spiceNumber as num, spiceText } from './spice.ts';
import { partsLaw } from '../stages/traits.ts';
import type { PartsPoint } from '../stages/parts/partsLaw.ts';

/** Where the netlist is taken. */
export interface NetlistPoint {
  /** [V] [V] [A] */
  vin: number;
  vout: number;
  iout: number;
}

/** Emission coefficient and saturation current of an almost ideal diode: its own drop is taken off again. */
const DIODE = { n: 0.02, is: 1e-9, thermal: 0.02585 };

/** Share of the period a gate takes to rise: steep, yet many solver steps wide. */
const EDGE = 2.5e-4;

/** Periods kept at the end of the transient, for means and RMS values. */
export const NETLIST_PERIODS = 20;

/**
 * A switched SPICE netlist of a stage with its parts at one operating point: open loop at the duty this core
 * computes, every resistance in its place, starting near its steady state. Edges, gates and core loss are no part
 * of it. Runs in any SPICE that has voltage-controlled switches.
 *
 * Currents: i(L1), i(L2); v(out); ways through zero-volt sources Va, Vb, Vc, Vd; Vco is the output capacitor.
 * @throws RangeError where no duty carries the load
 */
export function stageNetlist(stage: Converter, { vin, vout, iout }: NetlistPoint): string {
  const law = partsLaw(stage);
  const solved = law.at(vin, vout, iout);
  if (solved.inputAmps === Infinity) {
    throw new RangeError(`stageNetlist: no duty gives ${vout} V, ${iout} A from ${vin} V`);
  }
  return bridgeNetlist(law.bridge, solved, `${stage.name}: ${vin} V to ${vout} V, ${iout} A`);
}

/** A point of a bridge with its period and the currents of its ways. */
type Solved = NetlistPoint & Pick<PartsPoint, 'period' | 'flow'>;

/** The same for a bridge whose period has been solved. */
export function bridgeNetlist(bridge: Bridge, point: Solved, title: string): string {
  const { period: p } = point;
  const sepic = p.switching === 'sepic';
  const period = 1 / p.frequency;
  const span = settling(bridge, point, period);
  const lines = [
    `* ${spiceText(title)}`,
    `* ${p.switching}, duty ${num(p.duty)}, ${p.discontinuous ? 'discontinuous' : 'continuous'}; stiff input; edges, gates, core and output filter are not in it`,
    `Vin in 0 DC ${num(point.vin)}`,
    ...gates(p, period),
    ...(sepic ? sepicPower(bridge, point) : bridgePower(bridge, point)),
    `Vco out co 0`,
    `Cout co cx ${num(bridge.output.farads)} ic=${num(point.vout)}`,
    `Rco cx 0 ${num(Math.max(1e-6, bridge.output.ohms))}`,
    `Rload out 0 ${num(point.vout / point.iout)}`,
    `.model DI D(IS=${DIODE.is} N=${DIODE.n})`,
    `.options method=gear maxord=2 reltol=1e-4 abstol=1e-9 vntol=1e-6 itl4=200`,
    `.tran ${num(period / 100)} ${num(span)} ${num(span - NETLIST_PERIODS * period)} ${num(period / 100)} uic`,
    `.end`,
  ];
  return `${lines.join('\n')}\n`;
}

/** [s] until what the start is off has faded, and the periods that are kept; whole periods. */
function settling(bridge: Bridge, { vout, iout }: NetlistPoint, period: number): number {
  const load = vout / iout;
  const ringing = 2 * Math.PI * Math.sqrt(bridge.inductance * bridge.output.farads);
  const time = Math.max(150 * period, 12 * ringing, 5 * Math.min(load, 20) * bridge.output.farads);
  return (Math.ceil(Math.min(time, 3000 * period) / period) + NETLIST_PERIODS) * period;
}

/** Gate drives: A and C high in the shares they conduct, from the beginning of the period. */
function gates(p: Period, period: number): string[] {
  const edge = EDGE * period;
  const pulse = (name: string, share: number) =>
    `V${name} ${name} 0 PULSE(0 1 0 ${num(edge)} ${num(edge)} ${num(share * period - edge)} ${num(period)})`;
  const first = p.share[0]!;
  if (p.switching === 'both') return [pulse('ga', first + p.share[1]!), pulse('gc', first)];
  return [pulse(p.switching === 'buck' ? 'ga' : 'gc', first)];
}

function bridgePower(bridge: Bridge, { period: p, flow }: Solved): string[] {
  const { a, b, c, d } = bridge;
  const { switching } = p;
  const step = switching !== 'boost';
  const lift = switching !== 'buck';
  const gateA = switching === 'simultaneous' ? 'gc' : 'ga';
  const blocks = p.discontinuous;
  const meanOn = (mean: number, share: number) => (share > 0 ? mean / share : 0);
  const offShare = p.share[p.phases - 1]!;
  return [
    'Va in na 0',
    step ? driven('Sa', 'na', 'l1', gateA, a.ohms) : `Ra na l1 ${num(Math.max(1e-6, a.ohms))}`,
    ...(step ? rectifier('b', '0', 'l1', gateA, b, blocks, meanOn(flow.meanB, offShare)) : []),
    `Rl l1 lx ${num(Math.max(1e-6, bridge.winding))}`,
    `L1 lx l2 ${num(bridge.inductance)} ic=${num(p.current[0]!)}`,
    ...(lift ? ['Vc l2 nc 0', driven('Sc', 'nc', '0', 'gc', c.ohms)] : []),
    ...(lift
      ? rectifier('d', 'l2', 'out', 'gc', d, blocks, meanOn(flow.meanD, p.share[1]!))
      : ['Vd l2 nd 0', ...wire('nd', 'out', d)]),
  ];
}

/** A way that conducts all the time. */
function wire(from: string, to: string, way: Way): string[] {
  if (!way.diode) return [`Rd ${from} ${to} ${num(Math.max(1e-6, way.ohms))}`];
  return [`Vdf ${from} ndf ${num(way.volts)}`, `Rd ndf ${to} ${num(Math.max(1e-6, way.ohms))}`];
}

function sepicPower(bridge: Bridge, { period: p, flow, vin }: Solved): string[] {
  const { first, second } = bridge.windings!;
  const coupling = bridge.coupling!;
  // The undamped loop of coupling capacitor and inductors would ring on: a branch of 4·C in parallel damps it.
  const damping = 4 * coupling.farads;
  // [V·s] from the mean of a current to where it starts
  const half = (p.ripple * bridge.inductance * (p.share[0]! + p.share[1]!)) / 2;
  const ohms = 2 * Math.sqrt((first.henries + second.henries) / damping);
  return [
    'Va in na 0',
    `Rl1 na lx ${num(Math.max(1e-6, first.ohms))}`,
    `L1 lx sw ${num(first.henries)} ic=${num(flow.mean - half / first.henries)}`,
    'Vc sw nc 0',
    driven('Sc', 'nc', '0', 'gc', bridge.c.ohms),
    `Cs sw ncs ${num(coupling.farads)} ic=${num(vin)}`,
    `Rcs ncs b ${num(Math.max(1e-6, coupling.ohms))}`,
    `Cdamp sw ndp ${num(damping)} ic=${num(vin)}`,
    `Rdamp ndp b ${num(ohms)}`,
    `Rl2 0 ly ${num(Math.max(1e-6, second.ohms))}`,
    `L2 ly b ${num(second.henries)} ic=${num(flow.mean2 - half / second.henries)}`,
    ...rectifier('d', 'b', 'out', 'gc', bridge.d, p.discontinuous, flow.meanD / p.share[1]!),
  ];
}

/** A switch that its gate turns on. */
function driven(name: string, from: string, to: string, gate: string, ohms: number): string {
  return [
    `${name} ${from} ${to} ${gate} 0 M${name}`,
    `.model M${name} SW(vt=0.5 vh=0 ron=${num(Math.max(1e-6, ohms))} roff=1e7)`,
  ].join('\n');
}

/**
 * A rectifier behind its probe: a switch of the opposite gate, or, where current must stop at zero, a diode whose
 * own drop at its mean current is taken off its forward volts.
 */
function rectifier(
  name: 'b' | 'd',
  from: string,
  to: string,
  gate: string,
  way: Way,
  blocks: boolean,
  amps: number,
): string[] {
  const probe = `V${name} ${from} n${name} 0`;
  const ohms = num(Math.max(1e-6, way.ohms));
  if (!way.diode && !blocks) {
    return [
      probe,
      `S${name} n${name} ${to} 0 ${gate} MS${name}`,
      `.model MS${name} SW(vt=-0.5 vh=0 ron=${ohms} roff=1e7)`,
    ];
  }
  const own = DIODE.n * DIODE.thermal * Math.log(1 + amps / DIODE.is);
  return [
    probe,
    `D${name} n${name} n${name}1 DI`,
    `V${name}f n${name}1 n${name}2 ${num(way.volts - own)}`,
    `R${name} n${name}2 ${to} ${ohms}`,
  ];
}

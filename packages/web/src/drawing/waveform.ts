import type { PeriodShape, Switching } from '@mile-thread/core';

/** A trace in its own units: values at times, straight between them. */
export interface Trace {
  /** periods, 0…2 */
  t: number[];
  value: number[];
}

export interface Waveforms {
  /** [A] */
  current: Trace;
  /** [V] nodes that switch: of the input leg, of the output leg, or both */
  nodes: { name: string; trace: Trace }[];
}

/** Two periods of inductor current and switch nodes. @param vin [V] @param vout [V] */
export function waveforms(p: PeriodShape, vin: number, vout: number): Waveforms {
  const current: Trace = { t: [], value: [] };
  const { share } = p;
  const live = share.reduce((a, b) => a + b, 0);
  const edges = share.reduce<number[]>((at, s) => [...at, at.at(-1)! + s], [0]);
  for (const start of [0, 1]) {
    edges.forEach((e, k) => {
      current.t.push(start + e);
      current.value.push(p.current[k]!);
    });
    if (live < 1 - 1e-9) {
      current.t.push(start + 1);
      current.value.push(p.current[share.length]!);
    }
  }
  const levels = (list: number[], idle: number): Trace => {
    const trace: Trace = { t: [], value: [] };
    for (const start of [0, 1]) {
      list.forEach((v, k) => {
        trace.t.push(start + edges[k]!, start + edges[k + 1]!);
        trace.value.push(v, v);
      });
      if (live < 1 - 1e-9) {
        trace.t.push(start + live, start + 1);
        trace.value.push(idle, idle);
      }
    }
    return trace;
  };
  const nodes = NODES[p.switching].map(({ name, while: phases, idle }) => ({
    name,
    trace: levels(
      phases.map((at) => at(vin, vout)),
      idle(vin, vout),
    ),
  }));
  return { current, nodes };
}

/** [V] a node stands at, of the input and output volts. */
type Level = (vin: number, vout: number) => number;
const ground: Level = () => 0;
const input: Level = (vin) => vin;
const output: Level = (_, vout) => vout;
const sum: Level = (vin, vout) => vin + vout;

/** Where the nodes stand in each phase, and while no current flows, by the way it is switched. */
const NODES: Record<Switching, { name: string; while: Level[]; idle: Level }[]> = {
  buck: [{ name: 'switch node', while: [input, ground], idle: output }],
  boost: [{ name: 'switch node', while: [ground, output], idle: input }],
  sepic: [{ name: 'switch node', while: [ground, sum], idle: input }],
  both: [
    { name: 'input node', while: [input, input, ground], idle: output },
    { name: 'output node', while: [ground, output, output], idle: input },
  ],
  simultaneous: [
    { name: 'input node', while: [input, ground], idle: ground },
    { name: 'output node', while: [ground, output], idle: input },
  ],
};

/** SVG path of a trace in a box, values from `low` to `high` upwards. [px] */
export function tracePath(
  { t, value }: Trace,
  box: { x: number; y: number; width: number; height: number },
  low: number,
  high: number,
): string {
  const x = (v: number) => box.x + (v / 2) * box.width;
  const y = (v: number) => box.y + box.height * (1 - (v - low) / (high - low || 1));
  return t.map((at, k) => `${k === 0 ? 'M' : 'L'}${x(at).toFixed(1)} ${y(value[k]!).toFixed(1)}`).join('');
}

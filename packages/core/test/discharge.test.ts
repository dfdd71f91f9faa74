import { describe, expect, it } from 'vitest';
import {
  CELL_LIBRARY,
  instantAt,
  packSource,
  ROW,
  rowStride,
  simulate,
  type Load,
  type RunResult,
} from './core.ts';
import { nosePoint } from '../src/run/march/nose.ts';
import { load, plainCell, quasiStatic, seriesOhms, thread } from './build.ts';
import { cases, input, meets, type Case } from './cases.ts';

const WH = 3600;
const polymer = CELL_LIBRARY['polymer-850-published']!;

function loadOf(c: Case, min: number): Load {
  const range = { min, max: 1000 };
  if ('load_current' in c.inputs) return load('current', input(c, 'load_current'), { range });
  if ('load_power' in c.inputs) return load('power', input(c, 'load_power'), { range });
  return load('resistance', input(c, 'load_resistance'), { range });
}

/** Run a case: its cut-off is the load's lowest volts, or the protection's where it is measured at a cell. */
function discharge(c: Case) {
  const linear = 'ocv_at_soc_0' in c.inputs;
  const cell = linear
    ? plainCell(
        input(c, 'capacity'),
        input(c, 'ocv_at_soc_0'),
        input(c, 'ocv_at_soc_1'),
        input(c, 'cell_resistance'),
      )
    : c.id.endsWith('QS') || c.id.includes('COLLAPSE')
      ? quasiStatic(polymer)
      : polymer;
  const cutoff = input(c, 'cutoff_voltage');
  const atCell = String((c.inputs.cutoff_measured_at as { value?: string }) ?? '').startsWith('one cell');
  const outside = input(c, 'protection_resistance', 0) + input(c, 'wire_resistance_total', 0);
  const doc = thread({
    cell,
    pack: {
      series: input(c, 'series_cells', 1),
      parallel: input(c, 'parallel_cells', 1),
      protection: seriesOhms(outside, atCell ? cutoff : 0.1),
    },
    loads: [loadOf(c, atCell ? 0 : cutoff)],
  });
  return { doc, run: simulate(doc) };
}

const sum = (run: RunResult, element: string) =>
  run.ledger.entries.filter((e) => e.element === element).reduce((s, e) => s + e.joules, 0) / WH;

describe('discharge against adaptive integration at tight tolerance', () => {
  const runs = cases('A_discharge').filter((c) => !c.id.includes('NOSOL'));
  for (const c of runs) {
    it(`${c.id}: ${c.description}`, () => {
      const { doc, run } = discharge(c);
      const { data, stages, loads } = run.series;
      const row = (time: number) => {
        const stride = rowStride({ stages, loads });
        let at = 0;
        while (at + stride < data.length && data[at + stride]! <= time * (1 + 1e-12)) at += stride;
        return data.subarray(at, at + stride);
      };
      const start = data.subarray(0, rowStride({ stages, loads }));
      const end = row(run.usefulEnd.time);
      const p = doc.pack;
      const charge = (start[ROW.soc]! - end[ROW.soc]!) * p.cell.capacityAh * p.parallel;
      const branches = endBranches(doc, run);
      const quasi = c.id.endsWith('DYN') ? quasiRuntime(c, runs) : 0;
      expect(run.ledger.closure).toBeLessThan(1e-6);
      meets(c, {
        runtime: run.usefulEnd.time / 3600,
        charge_out: charge,
        energy_out: sum(run, 'load'),
        heat_in_cells: sum(run, 'cells'),
        heat_in_protection_and_wire: sum(run, 'protection'),
        soc_end: run.socAtUseful,
        current_start: start[ROW.packAmps],
        current_end: end[ROW.packAmps],
        voltage_start: start[ROW.packVolts],
        terminal_voltage_end: end[ROW.packVolts],
        voltage_just_before: end[ROW.packVolts],
        v_short_rc_end: branches[0],
        v_long_rc_end: branches[1],
        runtime_difference_dynamic_minus_quasistatic: (run.usefulEnd.time / 3600 - quasi) * 60,
        end_reason: run.deadEnd.reason === 'collapse' ? 'no-solution' : run.deadEnd.reason,
      });
    });
  }

  it('A-NOSOL-1: the largest power is found, and more has no operating point', () => {
    const c = cases('A_discharge').find((x) => x.id === 'A-NOSOL-1')!;
    const doc = thread({ cell: quasiStatic(polymer), loads: [load('power', input(c, 'load_power'))] });
    const { plant, state, instant } = instantAt(doc, input(c, 'soc'));
    const { status } = instant.search(state, NaN);
    const nose = nosePoint(plant, state)!;
    meets(c, {
      ocv: instant.open,
      total_resistance: instant.ohms,
      maximum_power: nose.watts,
      feasible: status === 'converged',
      voltage_at_maximum_power: nose.volts,
    });
    expect(simulate(doc).deadEnd).toMatchObject({ reason: 'collapse', time: 0 });
  });
});

/** [V] of both branches of one cell at the useful end: rest volts less terminal volts, split by the last steps. */
function endBranches(doc: ReturnType<typeof thread>, run: RunResult): number[] {
  const source = packSource(doc.pack);
  if (source.branches.length === 0) return [];
  const stride = rowStride(run.series);
  const v = [0, 0];
  // Integrate C·dv/dt = i − v/R over the recorded currents, apart from the solver's own steps.
  for (let at = stride; at < run.series.data.length; at += stride) {
    const [t0, t1] = [run.series.data[at - stride]!, run.series.data[at]!];
    if (t1 > run.usefulEnd.time * (1 + 1e-12)) break;
    for (let n = 0; n < 20; n++) {
      const h = (t1 - t0) / 20;
      const f = (n + 0.5) / 20;
      const mix = (c: number) => run.series.data[at - stride + c]! * (1 - f) + run.series.data[at + c]! * f;
      source.branches.forEach((b, k) => {
        const r = b.ohms.at(mix(ROW.soc));
        const decay = Math.exp(-h / (r * b.farads.at(mix(ROW.soc))));
        v[k] = mix(ROW.cellAmps) * r * (1 - decay) + v[k]! * decay;
      });
    }
  }
  return v;
}

function quasiRuntime(c: Case, all: Case[]): number {
  const twin = all.find((x) => x.id === c.id.replace('DYN', 'QS'))!;
  return discharge(twin).run.usefulEnd.time / 3600;
}

import { describe, expect, it } from 'vitest';
import {
  CELL_LIBRARY,
  column,
  instantAt,
  packSource,
  socFromVoltage,
  ROW,
  simulate,
  stageColumn,
  STAGE_ROW,
  type BuckBoostStage,
  type PolynomialLoss,
} from './core.ts';
import { monthlyRate } from '../src/plant/pack.ts';
import { shelfHours } from '../src/run/shelf.ts';
import { nosePoint } from '../src/run/march/nose.ts';
import { load, quasiStatic, seriesOhms, thread } from './build.ts';
import { cases, input, meets, type Case } from './cases.ts';

const WH = 3600;
const polymer = quasiStatic(CELL_LIBRARY['polymer-850-published']!);

/** A converter that only has its loss polynomial and its lock-out. */
function plainConverter(loss: Partial<PolynomialLoss>, minInput: number): BuckBoostStage {
  return {
    id: 'conv',
    name: 'Converter',
    from: 'pack',
    kind: 'buckBoost',
    outputVolts: 5,
    minInput,
    hysteresis: 1,
    maxInput: 100,
    loss: {
      basis: 'polynomial',
      fixed: 0,
      perOutputAmp: 0,
      perInputAmp: 0,
      perInputAmpSquared: 0,
      quiescentCurrent: 0,
      ...loss,
    },
    maxBuckDuty: 0.999,
    minBoostDuty: 0.001,
    maxBoostDuty: 0.98,
    bothLoss: 0,
    inputLimit: 1000,
    pathResistance: 0,
    grade: 'assumed',
  };
}

function conversion(c: Case, minInput: number, cutoff: number) {
  const loss = {
    fixed: input(c, 'loss_P0'),
    perOutputAmp: input(c, 'loss_k1'),
    perInputAmpSquared: input(c, 'loss_k2'),
  };
  const range = { min: 4.9, max: 5.1 };
  const doc = thread({
    cell: polymer,
    pack: {
      series: input(c, 'series_cells'),
      parallel: input(c, 'parallel_cells'),
      protection: seriesOhms(input(c, 'protection_resistance'), cutoff),
    },
    stages: [plainConverter(loss, minInput)],
    loads: [load('current', input(c, 'output_current', 1), { from: 'conv', range })],
  });
  return { doc, run: simulate(doc) };
}

describe('pack to converter to load, against quadrature', () => {
  for (const id of ['C-CONV-1', 'C-CONV-5']) {
    const c = cases('C_converter').find((x) => x.id === id)!;
    it(`${id}: ${c.description}`, () => {
      const minInput = input(c, 'converter_min_input');
      const cutoff = input(c, 'pack_cutoff_per_cell');
      const free = conversion(c, minInput, 0.1).run;
      const limited = conversion(c, minInput, cutoff).run;
      const noLimit = conversion(c, 0.5, cutoff).run;
      const source = packSource(conversion(c, minInput, cutoff).doc.pack);
      const entry = (element: string, mechanism?: string) =>
        free.ledger.entries
          .filter((e) => e.element === element && e.mechanism !== 'self-discharge')
          .filter((e) => !mechanism || e.mechanism === mechanism)
          .reduce((s, e) => s + e.joules, 0) / WH;
      const stage = stageColumn(0);
      // An event stores two rows, just before and just after it: the first of them ends the run.
      const rows = column(free.series, ROW.time).findIndex((t) => t >= free.usefulEnd.time) + 1;
      const vin = column(free.series, stage + STAGE_ROW.inputVolts);
      const iin = column(free.series, stage + STAGE_ROW.inputAmps);
      const soc = column(free.series, ROW.soc);
      const out = input(c, 'output_voltage') * input(c, 'output_current');
      const efficiency = Array.from(vin, (v, k) => out / (v * iin[k]!));
      const at = (s: number) => {
        const k = soc.findIndex((x) => x <= s);
        const f = (soc[k - 1]! - s) / (soc[k - 1]! - soc[k]!);
        return efficiency[k - 1]! + f * (efficiency[k]! - efficiency[k - 1]!);
      };
      const output = entry('load');
      const lost = entry('conv');
      const restEnd = socFromVoltage(polymer, cutoff);
      const stop = free.socAtUseful;
      const perCharge = (source.charge * source.parallel) / WH;
      expect(free.ledger.closure).toBeLessThan(1e-6);
      meets(
        c,
        {
          device_runtime: limited.usefulEnd.time / WH,
          runtime_to_converter_minimum: free.usefulEnd.time / WH,
          soc_at_stop: stop,
          output_energy: output,
          converter_input_energy: output + lost,
          input_current_start: iin[0],
          input_voltage_start: vin[0],
          input_current_end: iin[rows - 1],
          converter_efficiency_start: efficiency[0],
          converter_efficiency_end: efficiency[rows - 1],
          converter_efficiency_mean_energy: output / (output + lost),
          efficiency_from_ocv_energy: output / ((free.ledger.stored - free.ledger.left) / WH),
          converter_efficiency_at_soc_0p9_0p7_0p5_0p3_0p1: [0.9, 0.7, 0.5, 0.3, 0.1].map(at),
          heat_in_cells: entry('cells'),
          heat_in_protection: entry('protection'),
          cell_voltage_at_stop: column(free.series, ROW.cellVolts)[rows - 1],
          pack_cutoff_limits_first: limited.usefulEnd.time < free.usefulEnd.time * (1 - 1e-6),
          soc_at_pack_cutoff_same_load: noLimit.socAtUseful,
          runtime_to_pack_cutoff_or_collapse: noLimit.deadEnd.time / WH,
          end_reason_without_converter_limit: noLimit.deadEnd.reason,
          stranded_output_energy_same_load: (noLimit.deadEnd.time - free.usefulEnd.time) * (out / WH),
          stranded_ocv_energy_to_rest_cutoff:
            (source.ocv.integral(stop) - source.ocv.integral(restEnd)) * perCharge,
          stranded_charge_to_rest_cutoff: (stop - restEnd) * perCharge,
        },
        [],
      );
    });
  }

  it('C-NOSOL-1: largest output through a converter', () => {
    const c = cases('C_converter').find((x) => x.id === 'C-NOSOL-1')!;
    const { doc } = conversion(c, 0.5, 0.1);
    doc.loads = [load('power', input(c, 'output_power'), { from: 'conv' })];
    const { plant, state, instant } = instantAt(doc, input(c, 'soc'));
    const found = instant.solve(state, NaN);
    plant.path.network.settle(0, found.volts);
    const feasible = found.status === 'converged' && plant.path.network.points[0]!.outputVolts > 0;
    const nose = nosePoint(plant, state)!;
    meets(c, {
      max_output_power: nose.loadWatts,
      input_current_at_limit: nose.amps,
      input_voltage_at_limit: nose.volts,
      feasible,
    });
  });

  it('C-SHELF-1: charge, quiescent current and self-discharge', () => {
    const c = cases('C_converter').find((x) => x.id === 'C-SHELF-1')!;
    const charge = input(c, 'capacity') * WH;
    const iq = input(c, 'quiescent_current') * 1e-6;
    const [from, to] = [input(c, 'soc_start'), input(c, 'soc_end')];
    const x = input(c, 'self_discharge') / 100;
    const months = (h: number) => h / 730.5;
    const exponential = months(shelfHours(charge, () => iq, monthlyRate(x), from, to, 12));
    meets(
      c,
      {
        months_exponential: exponential,
        months_quiescent_only: months(shelfHours(charge, () => iq, 0, from, to, 12)),
        charge_taken_by_quiescent_exponential: exponential * 730.5 * iq,
      },
      ['months_linear'], // the other convention: the planner uses a share of what is left
    );
  });

  it('C-SHELF-4: a constant-power sleeper to a rest voltage', () => {
    const c = cases('C_converter').find((x) => x.id === 'C-SHELF-4')!;
    const { ocv, charge } = packSource(thread({ cell: polymer, loads: [] }).pack);
    const watts = input(c, 'sleep_power') * 1e-3;
    const end = socFromVoltage(polymer, input(c, 'rest_voltage_end'));
    const cells = charge * input(c, 'parallel_cells');
    const lambda = monthlyRate(input(c, 'self_discharge') / 100);
    const hours = shelfHours(cells, (s) => watts / ocv.at(s), lambda, 1, end, 12);
    meets(c, { months: hours / 730.5, soc_end: end });
  });
});

import { socKnots } from '../src/cells/knots.ts';
import type { BuckBoostStage, CellRecord, Load, ThreadDocument } from './core.ts';
import type { Draw } from '../src/model/draw.ts';
import { load, plainCell, seriesOhms, thread } from './build.ts';
import { input, type Case } from './cases.ts';

/** A formula of a case as a function of the state of charge. */
export function formula(c: Case, name: string): ((s: number) => number) | undefined {
  const field = c.inputs[name] as { value?: string } | string | undefined;
  const text = typeof field === 'string' ? field : field?.value;
  if (text === undefined) return undefined;
  const code = String(text).replace(/\[.*$/, '').replaceAll('exp(', 'Math.exp(').replaceAll('^', '**');
  return new Function('s', `return ${code}`) as (s: number) => number;
}

/** [F] Least capacitance: printed fits of the published cell go negative near empty. */
const MIN_FARADS = 1;

/** The cell of a case, from its formulas. */
export function cellOf(c: Case): CellRecord {
  const soc = socKnots();
  const ocv = formula(c, 'cell_OCV(s)')!;
  const r0 = formula(c, 'cell_R0(s)')!;
  const branches = [1, 2].flatMap((k) => {
    const ohms = formula(c, `cell_R${k}(s)`);
    const farads = formula(c, `cell_C${k}(s)`);
    if (!ohms || !farads) return [];
    return [{ soc, ohms: soc.map(ohms), farads: soc.map((s) => Math.max(MIN_FARADS, farads(s))) }];
  });
  const plain = plainCell(input(c, 'cell_capacity'), 2, 4.3, 0.05);
  const curves = { ocv: { soc, volts: soc.map(ocv) }, r0: { soc, ohms: soc.map(r0) } };
  return { ...plain, ...curves, branches };
}

const DRAW_OF: Readonly<Record<string, Exclude<Draw, 'string'>>> = {
  A: 'current',
  W: 'power',
  ohm: 'resistance',
};

/** A case of schedules as a thread: one load for each kind of draw, and one that only watches the pack's volts. */
export function scheduled(c: Case, conv?: (loss: object) => BuckBoostStage): ThreadDocument {
  const states = (c.inputs.states as { value: unknown }).value as [string, number, string, number][];
  const names = [...new Set(states.map(([name]) => name))];
  const stage =
    'converter_output_voltage' in c.inputs
      ? conv!({
          fixed: input(c, 'loss_P0'),
          perOutputAmp: input(c, 'loss_k1'),
          perInputAmpSquared: input(c, 'loss_k2'),
        })
      : undefined;
  const from = stage ? stage.id : 'pack';
  const units = [...new Set(states.map(([, , unit]) => unit))];
  const loads = units.map((unit): Load => {
    const draws = names.map((mode) => {
      const [, value, of] = states.find(([name]) => name === mode)!;
      return { mode, value: of === unit ? value : 0 };
    });
    return { ...load(DRAW_OF[unit]!, 1, { id: `l-${DRAW_OF[unit]!}`, from }), draws, essential: false };
  });
  const watch = load('current', 0, { id: 'watch', range: { min: input(c, 'cut_off'), max: 99 } });
  const doc = thread({
    cell: cellOf(c),
    pack: {
      series: input(c, 'series_cells'),
      parallel: input(c, 'parallel_cells'),
      protection: seriesOhms(input(c, 'series_resistance_Rext'), 0.5),
      startSoc: input(c, 'soc_start'),
    },
    stages: stage ? [stage] : [],
    loads: [...loads, { ...watch, essential: true }],
  });
  const repeats = (c.inputs.repeats as { value: boolean }).value;
  return {
    ...doc,
    modes: names.map((id) => ({ id, name: id })),
    programme: {
      segments: states.map(([mode, , , seconds]) => ({ mode, seconds })),
      after: repeats ? 'repeat' : 'stay',
    },
  };
}

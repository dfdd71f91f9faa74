import { PACK, type ThreadDocument } from '@mile-thread/core/model';
import type { Ledger } from '@mile-thread/core/solve';
import type { Flows } from '../../drawing/ribbon.ts';

/** Where on the thread energy went astray: the cells, all between them and the first rail, or a stage. */
export interface Astray {
  /** `cells`, `protection` or a stage's id, as on the drawing */
  id: string;
  joules: number;
  /** by element and mechanism, the largest first [J] */
  parts: { element: string; mechanism: string; joules: number }[];
}

/** The whole run on the thread: what flowed along it [J], and what went astray where. */
export interface Unrolled {
  flows: Flows;
  astray: Astray[];
}

/** Energies of a run in the place of powers at an instant: the same drawing, of all of it. */
export function unrolled(doc: ThreadDocument, ledger: Ledger): Unrolled {
  const { entries, stored, left, warmed = 0, polarisation, intake } = ledger;
  const loads = new Map(doc.loads.map((l) => [l.id, 0]));
  const stages = new Set(doc.stages.map((s) => s.id));
  const parts = new Map<string, Astray['parts']>();
  for (const entry of entries) {
    const { element, joules } = entry;
    if (loads.has(element)) {
      loads.set(element, loads.get(element)! + joules);
      continue;
    }
    const at = element === 'cells' || stages.has(element) ? element : 'protection';
    parts.set(at, [...(parts.get(at) ?? []), entry]);
  }
  const astray = ['cells', 'protection', ...stages].flatMap((id): Astray[] => {
    const own = (parts.get(id) ?? []).filter((p) => p.joules > 0).sort((a, b) => b.joules - a.joules);
    const joules = own.reduce((sum, p) => sum + p.joules, 0);
    return joules > 0 ? [{ id, joules, parts: own }] : [];
  });
  const lost = (id: string) => astray.find((a) => a.id === id)?.joules ?? 0;
  // What the branches still hold is not gone yet.
  const gone = stored + warmed - left - polarisation;
  const terminals = gone - lost('cells');
  return {
    flows: {
      pack: { inside: gone, terminals, path: terminals - lost('protection') },
      stages: new Map(
        doc.stages.map(({ id }) => [id, { into: intake[id]!, out: Math.max(0, intake[id]! - lost(id)) }]),
      ),
      loads,
    },
    astray,
  };
}

/** [J] into whatever hangs on a rail; of the pack's rail that is what reaches it. */
export function intoRail(doc: ThreadDocument, { flows }: Unrolled, rail: string = PACK): number {
  const stages = doc.stages.filter((s) => s.from === rail).map((s) => flows.stages.get(s.id)!.into);
  const loads = doc.loads.filter((l) => l.from === rail).map((l) => flows.loads.get(l.id)!);
  return [...stages, ...loads].reduce((sum, j) => sum + j, 0);
}

import { registerModel, type Converter, type Stage } from '../../model/kinds/registry.ts';
import type { StageBase } from '../../model/kinds/base.ts';
import { boost } from './boost.ts';
import { buck } from './buck.ts';
import { buckBoost } from './buckBoost.ts';
import { direct } from './direct.ts';
import type { Kind, SwitchingKind } from './kind.ts';
import { linear } from './linear.ts';
import { sepic } from './sepic.ts';

const kinds = new Map<string, Kind>();

/** Take a kind up: model, law and traits. @returns what lets it go again @throws Error when another one has its name */
export function registerKind<S extends StageBase>(kind: Kind<S>): () => void {
  const letGo = registerModel(kind);
  kinds.set(kind.kind, kind as unknown as Kind);
  return () => {
    letGo();
    kinds.delete(kind.kind);
  };
}

/** The kind of a stage. @throws Error where it is not registered: documents are checked before they are run */
export function kindOf(stage: Pick<StageBase, 'kind'>): Kind {
  const kind = kinds.get(stage.kind);
  if (!kind) throw new Error(`kindOf: no kind ${stage.kind}`);
  return kind;
}

/** What a switching kind adds. */
export function switchingKind(kind: string): SwitchingKind<Converter> {
  const { switching } = kindOf({ kind });
  if (!switching) throw new Error(`switchingKind: ${kind} does not switch`);
  return switching as unknown as SwitchingKind<Converter>;
}

/** Whether a stage is of a kind that has something to size. */
export function isSizable(stage: Stage): boolean {
  return kindOf(stage).sizable;
}

/** Every kind of stage there is: one line. */
for (const kind of [direct, linear, buck, boost, buckBoost, sepic]) registerKind(kind as unknown as Kind);

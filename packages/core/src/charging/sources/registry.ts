import type { SourceBase } from '../../model/sources/base.ts';
import { registerSourceModel, type Source } from '../../model/sources/registry.ts';
import { contracts } from './contracts.ts';
import type { SourceKind } from './kind.ts';
import { readings } from './readings.ts';
import { supply } from './supply.ts';

const kinds = new Map<string, SourceKind>();

/** Take a kind up: model, law and words. @returns what lets it go again @throws Error when another one has its name */
export function registerSource<S extends SourceBase>(kind: SourceKind<S>): () => void {
  const letGo = registerSourceModel(kind as unknown as SourceKind);
  kinds.set(kind.kind, kind as unknown as SourceKind);
  return () => {
    letGo();
    kinds.delete(kind.kind);
  };
}

/** The kind of a source. @throws Error where it is not registered: documents are checked before they are run */
export function sourceKind({ kind: name }: Pick<SourceBase, 'kind'>): SourceKind {
  const kind = kinds.get(name);
  if (!kind) throw new Error(`sourceKind: no kind ${name}`);
  return kind;
}

/** Every kind there is, in its order. */
export function sourceKinds(): SourceKind[] {
  return [...kinds.values()];
}

/** The same source described in another way. */
export function retold(source: Source, kind: string): Source {
  const { name, beyond, wall, grade } = source;
  const rest = { name, beyond, grade, ...(wall ? { wall } : {}) };
  return sourceKind({ kind }).retold(rest, sourceKind(source).said(source)) as Source;
}

/** Every kind of source there is: one line. */
for (const kind of [supply, contracts, readings]) registerSource(kind as unknown as SourceKind);

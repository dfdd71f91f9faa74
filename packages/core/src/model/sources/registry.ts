import type { Issue } from '../issue.ts';
import type { SourceBase } from './base.ts';

/** Every kind of source adds its class to this list from its own file. */
// oxlint-disable-next-line typescript/no-empty-object-type
export interface SourceTypes {}

/** A source of any kind. */
export type Source = SourceTypes[keyof SourceTypes];

/** What a document needs to know of a kind of source; its law stands in `charging/sources`. */
export interface SourceModel<S extends SourceBase = SourceBase> {
  kind: string;
  model: new () => S;
  /** What its figures owe each other. @param at path of the source, for the messages */
  issues?(source: S, at: string): Issue[];
}

/** The kinds registered, by name. Filled by `charging/sources/registry.ts`, which has the one list. */
const models = new Map<string, SourceModel>();

/** The kinds' classes by name, for reading files. */
export const SOURCE_VARIANTS = { property: 'kind', classes: {} as Record<string, new () => object> };

/** Take a kind up. @returns what lets it go again @throws Error when another one has its name: a programmer's mistake */
export function registerSourceModel(entry: SourceModel): () => void {
  if (models.has(entry.kind)) throw new Error(`registerSourceModel: there is a kind ${entry.kind}`);
  models.set(entry.kind, entry);
  SOURCE_VARIANTS.classes[entry.kind] = entry.model;
  return () => {
    models.delete(entry.kind);
    delete SOURCE_VARIANTS.classes[entry.kind];
  };
}

/** What the figures of a source owe each other. @param at path of the source, for the messages */
export function sourceIssues(source: SourceBase, at: string): Issue[] {
  return models.get(source.kind)?.issues?.(source, at) ?? [];
}

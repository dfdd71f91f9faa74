import type { SourceBase, Wall } from '../../model/sources/base.ts';
import type { SourceModel } from '../../model/sources/registry.ts';

/** A source as volts by current. */
export interface SourceLaw {
  /** [V] with nothing connected */
  open: number;
  /** [A] up to which it does not limit what is taken, as its label says */
  limit: number;
  beyond: SourceBase['beyond'];
  /** [A] it gives at most, whatever its volts */
  most: number;
  /** [Ω] volts it loses per ampere where nothing is drawn */
  droop: number;
  /** whether they fall like that all the way to its limit */
  straight: boolean;
  wall?: Wall;
  /** [V] at its terminals at a current [A] up to the most; smooth but where its stretch changes */
  volts(amps: number): number;
  /** Which smooth stretch of its curve a current lies in: 0, or 1 beyond the one bend there may be. */
  stretch(amps: number): 0 | 1;
}

/** What a list of a source's figures holds, for forms. */
export interface SourceList<S extends SourceBase = SourceBase> {
  name: string;
  field: string;
  model: new () => object;
  /** an entry to begin with */
  fresh(source: S): object;
  least?: number;
}

/** Everything about one kind of source: its class, its law, how it is told and read. */
export interface SourceKind<S extends SourceBase = SourceBase> extends SourceModel<S> {
  /** what it is described by, in a word or two */
  label: string;
  /** this one in a few words */
  words(source: S): string;
  law(source: S): SourceLaw;
  /** [V] asked of it or said on it, and [A] on its label: what it keeps when it is described otherwise */
  said(source: S): { volts: number; amps: number };
  /** The same source described in this way. */
  retold(rest: Pick<S, 'name' | 'beyond' | 'grade' | 'wall'>, said: { volts: number; amps: number }): S;
  /** With other open volts [V] or another droop [Ω], as they were read. */
  withCurve(source: S, curve: { open: number; droop: number }): S;
  /** whether its volts are what was agreed on, rather than a figure of its own that may be off */
  agreed?: boolean;
  lists?: readonly SourceList<S>[];
}

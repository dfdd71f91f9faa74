import type { CaseRun, Figure } from '@mile-thread/core/belief';
import type { ThreadDocument } from '@mile-thread/core/model';
import { END_WORDS } from '@mile-thread/core/solve';
import { elementName } from '../../kit/words.ts';

const KIND: Readonly<Record<Figure['kind'], string>> = {
  capacity: 'capacity',
  resistance: 'resistance',
  selfDischarge: 'self-discharge',
  loss: 'loss',
  ownDraw: 'own draw',
  draw: 'draw',
};

/** “Cells, capacity” */
export function figureName(doc: ThreadDocument, { element, kind }: Pick<Figure, 'element' | 'kind'>): string {
  return `${element === 'cells' ? 'Cells' : elementName(doc, element)}, ${KIND[kind]}`;
}

/** The same by its id, `camera.draw`. */
export function nameOfFigure(doc: ThreadDocument, id: string): string {
  const at = id.lastIndexOf('.');
  return figureName(doc, { element: id.slice(0, at), kind: id.slice(at + 1) as Figure['kind'] });
}

/** The reading that would settle a figure. */
export function settles(doc: ThreadDocument, { kind }: Figure): string {
  switch (kind) {
    case 'capacity':
      return `One discharge at 0.2 C to ${doc.pack.cell.endVolts} V, amps logged`;
    case 'resistance':
      return 'A step of 1 C for ten seconds, millivolts before and in it';
    case 'selfDischarge':
      return 'Volts at rest now and in a month';
    case 'loss':
      return 'Volts and amps, in and out, at its usual load';
    case 'ownDraw':
      return 'Microamps in with nothing behind it';
    case 'draw':
      return doc.programme ? 'Its amps logged over one cycle' : 'Its amps at the volts of its rail';
  }
}

/** What ends a case. */
export function caseEnd(doc: ThreadDocument, { usefulEnd: { load, stage }, deadEnd }: CaseRun): string {
  if (!load) return `Ends because ${END_WORDS[deadEnd.reason]}`;
  const by = stage ? `; ${elementName(doc, stage.id)} no longer holds it` : '';
  return `${elementName(doc, load.id)} leaves its range at ${load.volts.toFixed(2)} V${by}`;
}

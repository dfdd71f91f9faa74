import { seriesCsv } from '@mile-thread/core';
import { charge as chargeOf, chargeFindings, type ChargeResult } from '@mile-thread/core/charging';
import type { ThreadDocument } from '@mile-thread/core/model';
import { complain } from '../say.ts';
import { chargeJson, chargeText } from './chargeText.ts';
import { EXIT, type Command } from './command.ts';
import { codeOf, give } from './files.ts';
import { ROWS } from './run.ts';

export const charge: Command = {
  name: 'charge',
  usage: [
    {
      args: 'FILE [--json] [--csv OUT]',
      says: ['charge its pack and say how long that takes and what is wrong with it'],
    },
  ],
  options: ['json', 'csv'],
  reads: true,
  words: 0,
  run(doc, _, { json, csv }) {
    const result = charged(doc);
    if (!result) return EXIT.usage;
    const found = chargeFindings(doc, result);
    const rows = () => seriesCsv(doc, result.series);
    const words = () => (json ? chargeJson(doc, result, found) : chargeText(doc, result, found));
    return give(csv, { rows, words }, codeOf(found));
  },
};

/** The charge of a thread; none, and told, of one that says nothing of it. */
export function charged(doc: ThreadDocument): ChargeResult | undefined {
  if (doc.charging) return chargeOf(doc, undefined, {}, { rows: ROWS });
  complain('mile: this thread says nothing of how it is charged\n');
  return undefined;
}

import { seriesCsv } from '@mile-thread/core';
import { backupFindings, backupOf, yearsOf } from '@mile-thread/core/charging';
import { finish } from '@mile-thread/core/solve';
import { EXIT, type Command } from './command.ts';
import { codeOf, fail, give } from './files.ts';
import { outageJson, outageText } from './outageText.ts';

/** Most random years that are asked for at once. */
const MOST_YEARS = 10_000;

export const outage: Command = {
  name: 'outage',
  usage: [
    {
      args: 'FILE [--years N] [--json] [--csv OUT]',
      says: [
        'its timeline of mains: who carries, how long it holds, what a transfer does;',
        'in how many of N random years it drops its loads',
      ],
    },
  ],
  options: ['json', 'csv', 'years'],
  reads: true,
  words: 0,
  run(doc, _, { json, csv, years }) {
    if (!doc.backup || !doc.charging) return fail('mile: this thread says nothing of mains\n', EXIT.usage);
    const count = years === undefined ? 0 : Number(years);
    if (!Number.isInteger(count) || count < 0 || count > MOST_YEARS || years?.trim() === '') {
      return fail(`mile: --years takes a whole number up to ${MOST_YEARS}\n`, EXIT.usage);
    }
    if (count > 0 && !doc.backup.chance) {
      return fail('mile: this thread does not say how often mains goes in a year\n', EXIT.usage);
    }
    const result = backupOf(doc);
    const found = backupFindings(doc, result);
    const random = count > 0 ? finish(yearsOf(doc, 0, count, result.dip?.chance ?? 0)) : [];
    const rows = () => seriesCsv(doc, result.result.series);
    const words = () =>
      json ? outageJson(doc, result, found, random) : outageText(doc, result, found, random);
    return give(csv, { rows, words }, codeOf(found));
  },
};

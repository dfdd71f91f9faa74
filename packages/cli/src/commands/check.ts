import { findings } from '@mile-thread/core';
import { charge, chargeFindings } from '@mile-thread/core/charging';
import { simulate } from '@mile-thread/core/solve';
import { say } from '../say.ts';
import type { Command } from './command.ts';
import { codeOf } from './files.ts';
import { findingsText } from './runText.ts';

export const check: Command = {
  name: 'check',
  usage: [{ args: 'FILE [--json]', says: ['list what is wrong with it, worst first'] }],
  options: ['json'],
  reads: true,
  words: 0,
  run(doc, _, { json }) {
    const found = findings(doc, simulate(doc));
    if (doc.charging) found.push(...chargeFindings(doc, charge(doc)));
    say(json ? `${JSON.stringify(found, null, 2)}\n` : findingsText(found));
    return codeOf(found);
  },
};

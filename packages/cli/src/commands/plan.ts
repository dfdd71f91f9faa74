import { leftOutWords, planCsv, planOf, predictions } from '@mile-thread/core/bench';
import { complain } from '../say.ts';
import { EXIT, type Command } from './command.ts';
import { give } from './files.ts';
import { planText } from './planText.ts';

export const plan: Command = {
  name: 'plan',
  usage: [
    {
      args: 'FILE [--json] [--csv OUT]',
      says: ['what to measure, in safe order, with what to expect and a blank for each reading'],
    },
  ],
  options: ['json', 'csv'],
  reads: true,
  words: 0,
  run(doc, _, { json, csv }) {
    const found = predictions(doc);
    const steps = planOf(doc, found);
    const words = leftOutWords(found);
    if (words !== undefined) complain(`mile: ${words}\n`);
    const rows = () => planCsv(steps);
    const told = () => (json ? `${JSON.stringify(steps, null, 2)}\n` : planText(doc, steps));
    return give(csv, { rows, words: told }, EXIT.met);
  },
};

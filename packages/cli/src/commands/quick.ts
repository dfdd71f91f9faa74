import { refusal, refusalWords } from '@mile-thread/core';
import { modeName } from '@mile-thread/core/model';
import { OPEN_WORDS, quickLook } from '@mile-thread/core/solve';
import { formatDuration, SECONDS_PER_HOUR } from '@mile-thread/core/units';
import { say } from '../say.ts';
import { EXIT, type Command } from './command.ts';

export const quick: Command = {
  name: 'quick',
  usage: [
    {
      args: 'FILE [--json]',
      says: [
        'how long it lasts at least and at most, without running it down;',
        'or the first reason why it cannot be',
      ],
    },
  ],
  options: ['json'],
  reads: true,
  words: 0,
  run(doc, _, { json }) {
    const refused = refusal(doc);
    const found = refused ? ({ kind: 'refused', ...refused } as const) : quickLook(doc);
    const { hours } = doc.goals;
    const met = found.kind === 'bounds' && found.likely >= hours * SECONDS_PER_HOUR;
    if (json) say(`${JSON.stringify(found, null, 2)}\n`);
    else if (found.kind === 'refused') say(`${refusalWords(doc, found)}\n`);
    else if (found.kind === 'open') say(`${OPEN_WORDS[found.why]}: run it\n`);
    else {
      const [least, likely, most] = [found.earliest, found.likely, found.latest].map((t) =>
        formatDuration(t / SECONDS_PER_HOUR),
      );
      const where = found.endsIn === undefined ? '' : `, ends in ${modeName(doc, found.endsIn)}`;
      say(`lasts ${likely}, between ${least} and ${most}${where}; ${formatDuration(hours)} needed\n`);
    }
    return met ? EXIT.met : EXIT.notMet;
  },
};

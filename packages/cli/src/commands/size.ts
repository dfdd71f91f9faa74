import { simulate } from '@mile-thread/core/solve';
import { say } from '../say.ts';
import { EXIT, type Command } from './command.ts';
import { stageNamed } from './files.ts';
import { sizeJson, sizeText } from './sizeText.ts';

export const size: Command = {
  name: 'size',
  usage: [{ args: 'FILE STAGE [--json]', says: ['the sizing table of a stage: every part over the run'] }],
  options: ['json'],
  reads: true,
  words: 1,
  run(doc, [name], { json }) {
    const stage = stageNamed(doc, name!);
    if (!stage) return EXIT.usage;
    const result = simulate(doc);
    say(json ? sizeJson(doc, result, stage) : sizeText(doc, result, stage));
    return EXIT.met;
  },
};

import { threadSchema } from '@mile-thread/core/model';
import { say } from '../say.ts';
import { EXIT, type Command } from './command.ts';

export const schema: Command = {
  name: 'schema',
  usage: [{ args: '', says: ['print the JSON Schema of a thread file'] }],
  options: [],
  reads: false,
  words: 0,
  run() {
    say(`${JSON.stringify(threadSchema(), null, 2)}\n`);
    return EXIT.met;
  },
};

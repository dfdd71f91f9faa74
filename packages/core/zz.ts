import { writeFileSync } from 'node:fs';
import { threadSchema } from './src/model.ts';
writeFileSync('/work/main/docs/format/thread.schema.json', JSON.stringify(threadSchema(), null, 2) + '\n');

// `npm run figures -- record FILE [count [kind …]]`, `npm run figures -- compare FILE [count [kind …]]`: what random threads of each kind come to,
// kept before an engine is rebuilt and held against it afterwards. Minutes; apart from the tests.
import { spawnSync } from 'node:child_process';
import { bundle } from './bundle.mjs';
import { install, root } from './prepare.mjs';

const [what, file, ...rest] = process.argv.slice(2);
if (!['record', 'compare'].includes(what) || file === undefined) {
  console.error('figures: record FILE [count], or compare FILE [count]');
  process.exit(2);
}
install();
const { figures } = await bundle({ figures: 'packages/core/test/soak/recorded.ts' });
const done = spawnSync(process.execPath, [figures, what, file, ...rest], { cwd: root, stdio: 'inherit' });
process.exit(done.status ?? 1);

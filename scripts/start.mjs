// `npm start`: install what is missing, build if stale, serve.
import { spawn } from 'node:child_process';
import { build, install, root } from './prepare.mjs';

install();
build();
const server = spawn(process.execPath, ['--import', 'tsx', 'packages/server/src/main.ts'], {
  cwd: root,
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));

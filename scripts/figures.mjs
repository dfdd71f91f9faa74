// docs/benchmarks.md: one part a command, each written by it alone.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const file = join(root, 'docs/benchmarks.md');
const PARTS = ['bench', 'whole', 'look', 'quick', 'soak', 'programmes', 'files'];

/** Where and when figures were measured. */
export function where(command) {
  return `Written by \`npm run ${command}\` on ${new Date().toISOString().slice(0, 10)}; ${cpus().length} cores (${cpus()[0].model.trim()}), Node ${process.version}.`;
}

/** Replace one part of the file, keep the others. */
export function writePart(name, text) {
  const old = existsSync(file) ? readFileSync(file, 'utf8') : '';
  const part = (p) => old.match(new RegExp(`<!-- ${p} -->\n([\\s\\S]*?)<!-- /${p} -->`))?.[1] ?? '';
  const parts = PARTS.map(
    (p) => `<!-- ${p} -->\n${p === name ? `\n${text.trim()}\n\n` : part(p)}<!-- /${p} -->\n`,
  );
  writeFileSync(file, `# Benchmarks\n\n${parts.join('\n')}`);
  console.log(text);
}

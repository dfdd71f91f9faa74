// Bundle programs of the core as the application is, so that no loader's helpers are measured.
import { join } from 'node:path';
import { build } from 'vite';
import { root } from './prepare.mjs';

/** @returns the bundles' files by name */
export async function bundle(programs) {
  await build({
    configFile: false,
    root,
    logLevel: 'error',
    build: {
      ssr: true,
      rollupOptions: { input: programs },
      outDir: '.cache/programs',
      target: 'node20',
      minify: false,
    },
    ssr: { noExternal: true },
  });
  return Object.fromEntries(
    Object.keys(programs).map((name) => [name, join(root, '.cache/programs', `${name}.js`)]),
  );
}

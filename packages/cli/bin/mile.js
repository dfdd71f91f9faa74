#!/usr/bin/env node
// Node 20 does not load TypeScript: tsx does, with the package's own settings whatever the working directory.
import { fileURLToPath } from 'node:url';
import { register } from 'tsx/esm/api';

register({ tsconfig: fileURLToPath(new URL('../tsconfig.json', import.meta.url)) });
const { main } = await import('../src/main.ts');
process.exitCode = await main(process.argv.slice(2));

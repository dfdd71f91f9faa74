import { demoThreads, compile } from '../core.ts';
import { startAgain } from '../../src/plant/compile.ts';
import { quickLookAt } from '../../src/run/quick/quickLook.ts';
const ds = demoThreads().map((d) => compile(d as any));
for (let n = 0; n < 300; n++)
  for (const p of ds) {
    startAgain(p);
    quickLookAt(p);
  }

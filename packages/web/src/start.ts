/**
 * The page's first script, small so that it runs while the rest is still on its way: what takes long elsewhere is begun
 * here, the first worker and the browser's storage.
 */
import { beginWorker } from './jobs/firstWorker.ts';

beginWorker();
// To list databases, the browser has to open what they are kept in; refused where nothing may be kept, told elsewhere.
try {
  globalThis.indexedDB?.databases?.().catch(() => {});
} catch {
  // Even to look at it may be refused.
}
void import('./main.tsx');

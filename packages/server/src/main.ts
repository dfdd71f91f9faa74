import { serve } from '@hono/node-server';
import { relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Server } from 'node:http';
import { createApp } from './app.ts';

const port = Number(process.env.PORT ?? 4173);
const dist = fileURLToPath(new URL('../../web/dist', import.meta.url));

const server = serve(
  // Loopback only: the application is for this machine.
  { fetch: createApp(relative(process.cwd(), dist)).fetch, port, hostname: '127.0.0.1' },
  (info) => console.log(`Mile Thread is at http://localhost:${info.port}  (Ctrl+C stops it)`),
) as Server;

server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EADDRINUSE') throw error;
  console.error(`Port ${port} is taken. Stop what uses it, or choose another: PORT=${port + 1} npm start`);
  process.exit(1);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
}

import { serve } from '@hono/node-server';
import { relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Server } from 'node:http';
import { WebSocketServer } from 'ws';
import { createApp } from './app.ts';
import { LAST_PORT, portOf } from './port.ts';

const port = portOf(process.env.PORT);
if (port === undefined) {
  console.error(
    `PORT is ${JSON.stringify(process.env.PORT)}; allowed is a whole number from 1 to ${LAST_PORT}.`,
  );
  process.exit(1);
}
const dist = fileURLToPath(new URL('../../web/dist', import.meta.url));

const sockets = new WebSocketServer({ noServer: true, maxPayload: 100_000 });
const server = serve(
  // Loopback only: the application is for this machine.
  {
    fetch: createApp(relative(process.cwd(), dist)).fetch,
    port,
    hostname: '127.0.0.1',
    websocket: { server: sockets },
  },
  (info) => console.log(`Mile Thread is at http://localhost:${info.port}  (Ctrl+C stops it)`),
) as Server;

server.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EADDRINUSE') throw error;
  const other = port < LAST_PORT ? port + 1 : port - 1;
  console.error(`Port ${port} is taken. Stop what uses it, or choose another: PORT=${other} npm start`);
  process.exit(1);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    server.close(() => process.exit(0));
    for (const socket of sockets.clients) socket.terminate();
    server.closeAllConnections();
  });
}

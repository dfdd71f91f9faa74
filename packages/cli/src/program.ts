import { main } from './main.ts';

// Who reads has heard enough, as `head` has: that is no failure.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
  process.exit(0);
});
process.exitCode = await main(process.argv.slice(2));

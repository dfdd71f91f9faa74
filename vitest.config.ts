import { defineConfig } from 'vitest/config';

export default defineConfig({
  // The model is written with decorators; tests beside the sources are outside the sources' own project.
  oxc: { decorator: { legacy: true } },
  // Left to itself it keeps one core for whoever types beside it. Files of one worker share what they import: none leaves
  // anything behind (so none mocks a module: another may have read it before), and reading the core anew for each took a
  // third of the time.
  test: {
    isolate: false,
    setupFiles: ['scripts/testSetup.ts'],
    include: ['packages/*/{src,test}/**/*.test.ts'],
    testTimeout: 400_000,
    maxWorkers: '100%',
  },
});

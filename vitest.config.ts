import { defineConfig } from 'vitest/config';

export default defineConfig({
  // The model is written with decorators; tests beside the sources are outside the sources' own project.
  oxc: { decorator: { legacy: true } },
  test: { include: ['packages/*/{src,test}/**/*.test.ts'], testTimeout: 400_000 },
});

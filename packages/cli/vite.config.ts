import { defineConfig } from 'vite';

// One file that Node runs as it is.
export default defineConfig({
  build: {
    ssr: true,
    rollupOptions: { input: { mile: 'src/program.ts' } },
    outDir: 'dist',
    target: 'node20',
    minify: false,
  },
  ssr: { noExternal: true },
});

import react from '@vitejs/plugin-react';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { defineConfig, type Plugin, type Rollup } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';
import { COLOURS, customProperties } from './src/tokens/tokens.ts';

/** The bars of the frame, before any script has run. */
const BOOT =
  'body{margin:0;background:var(--paper)}.boot i,.boot b{display:block;height:46px;background:var(--deep)}' +
  '.boot b{height:37px;background:var(--tray);border-bottom:1px solid var(--line)}';

/** Views whose parts are fetched with the page, not after its first script has run. */
const AT_ONCE = /\/main\.tsx$/;

/** The page's colours, sizes and type, from the one place they are written in; and what it fetches at once. */
const page: Plugin = {
  name: 'page',
  transformIndexHtml: {
    order: 'post',
    handler: (_, { bundle = {} }) => [
      { tag: 'style', children: customProperties() + BOOT, injectTo: 'head-prepend' },
      { tag: 'meta', attrs: { name: 'theme-color', content: COLOURS.deep }, injectTo: 'head' },
      ...atOnce(bundle).map((file) => ({
        tag: 'link',
        attrs: hint(file),
        injectTo: 'head' as const,
      })),
    ],
  },
};

function hint(file: string) {
  const href = `/${file}`;
  if (file.endsWith('.js')) return { rel: 'modulepreload', crossorigin: true, href };
  if (file.endsWith('.css')) return { rel: 'preload', as: 'style', crossorigin: true, href };
  return { rel: 'preload', as: 'font', type: 'font/woff2', crossorigin: true, href };
}

function atOnce(bundle: Rollup.OutputBundle): string[] {
  const files = new Set(Object.keys(bundle).filter((f) => /next-latin-wght.*woff2$/.test(f)));
  const take = (file: string) => {
    const chunk = bundle[file];
    if (chunk?.type !== 'chunk' || files.has(file)) return;
    files.add(file);
    // What the build knows of a part's styles it tells beside the part.
    chunk.viteMetadata?.importedCss.forEach((style) => files.add(style));
    chunk.imports.forEach(take);
  };
  for (const chunk of Object.values(bundle)) {
    if (chunk.type === 'chunk' && AT_ONCE.test(chunk.facadeModuleId ?? '')) take(chunk.fileName);
  }
  return [...files];
}

/** Beside each text of the build its compressed forms: the server sends what the browser takes. */
const compressed: Plugin = {
  name: 'compressed',
  apply: 'build',
  closeBundle: {
    order: 'post',
    handler() {
      const dist = join(import.meta.dirname, 'dist');
      for (const name of readdirSync(dist, { recursive: true, encoding: 'utf8' })) {
        if (!/\.(js|css|html|svg|webmanifest)$/.test(name)) continue;
        const text = readFileSync(join(dist, name));
        const params = { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY };
        writeFileSync(join(dist, `${name}.br`), brotliCompressSync(text, { params }));
        writeFileSync(join(dist, `${name}.gz`), gzipSync(text, { level: 9 }));
      }
    },
  },
};

export default defineConfig({
  // Plotly reads `global`; without this the page dies though the build is green.
  define: { global: 'globalThis' },
  plugins: [
    react(),
    page,
    VitePWA({
      registerType: 'prompt',
      injectRegister: false,
      workbox: {
        globPatterns: ['**/*.{js,css,html,woff2,svg,png}'],
        maximumFileSizeToCacheInBytes: 6 * 1024 * 1024,
        navigateFallbackDenylist: [/^\/health/],
      },
      manifest: {
        name: 'Mile Thread',
        short_name: 'Mile Thread',
        description: 'Plan the power path from lithium cell to load and see it run down',
        theme_color: COLOURS.deep,
        background_color: COLOURS.paper,
        display: 'standalone',
        start_url: '/',
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
    }),
    compressed,
  ],
  css: {
    modules: {
      // Named after its sheet, so that it is known in the page; no two sheets have the same name.
      generateScopedName: (name, file) => `${basename(file.split('?')[0]!, '.module.css')}-${name}`,
      localsConvention: 'camelCaseOnly',
    },
  },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1600,
  },
});

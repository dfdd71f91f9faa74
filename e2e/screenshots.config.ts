import { defineConfig } from '@playwright/test';
import base from './playwright.config.ts';

/** `npm run screenshots`: the pictures of docs/screenshots, from the demo threads. */
export default defineConfig({ ...base, testDir: './screenshots', fullyParallel: false, workers: 1 });

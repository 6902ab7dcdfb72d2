import { defineConfig } from '@playwright/test';
import base from './playwright.config.ts';

/** Figures of the interface on the large piece, in the browser. */
export default defineConfig({ ...base, testDir: 'bench', reporter: 'line', timeout: 300_000, use: { ...base.use, trace: 'off' } });

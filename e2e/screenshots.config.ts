import { defineConfig } from '@playwright/test';
import base from './playwright.config.ts';

/** Pictures of the main views for the documents, taken from the demo pieces. */
export default defineConfig({ ...base, testDir: 'screenshots', reporter: 'list' });

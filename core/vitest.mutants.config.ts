import { defineConfig } from 'vitest/config';

/** What has to notice when the engine is changed. */
export default defineConfig({ test: { include: ['src/run/**/*.test.ts'], testTimeout: 30_000 } });

import { defineConfig } from 'vitest/config';

/** The core keeps nothing between tests but what hangs on the objects themselves, so all files can share its modules. */
export default defineConfig({ test: { include: ['src/**/*.test.ts'], testTimeout: 300_000, isolate: false, maxWorkers: 2 } });

import { defineConfig } from 'vitest/config';

/** What has to notice when the engine is changed; its modules are shared, or most of the time goes into reading them again. */
export default defineConfig({ test: { include: ['src/run/**/*.test.ts'], testTimeout: 30_000, isolate: false } });

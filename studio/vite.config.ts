import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  worker: { format: 'es' },
  test: { include: ['src/**/*.test.ts'], globalSetup: ['./vitest.setup.mjs'], testTimeout: 30_000, hookTimeout: 60_000, isolate: false },
});

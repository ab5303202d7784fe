import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

/** Tests of the front end against a real server, which whoever runs them has started (JUXTAFORM_ADDRESS). */
export default defineConfig({
  plugins: [svelte()],
  test: { include: ['src/**/*.live.ts'], exclude: ['src/testing/live.ts', '**/node_modules/**'], environment: 'node' },
});

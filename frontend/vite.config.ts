import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [tailwindcss(), svelte()],
  html: { cspNonce: 'NONCE-OF-THIS-ANSWER' },
  build: { outDir: '../juxtaform/web/static', emptyOutDir: true, chunkSizeWarningLimit: 2000, rolldownOptions: { input: ['index.html', 'api-docs.html'] } },
  server: { proxy: { '/api': 'http://127.0.0.1:8765' } },
  test: { include: ['src/**/*.test.ts'], environment: 'node', testTimeout: 120_000 },
});

import optimizeLocales from '@react-aria/optimize-locales-plugin';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), { ...optimizeLocales.vite({ locales: ['en-US', 'en-GB'] }), enforce: 'pre' }],
  html: { cspNonce: '__CSP_NONCE__' },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    sourcemap: true,
    assetsInlineLimit: 0, // no data: addresses, so the content security policy stays tight
    modulePreload: { polyfill: false },
    manifest: true,
    chunkSizeWarningLimit: 700, // the zoomable chart, loaded by its route only
  },
});

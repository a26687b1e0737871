import optimizeLocales from '@react-aria/optimize-locales-plugin';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/**
 * What several pages share, in few files: each is a request that a slow tablet waits for. What every page has comes first,
 * then what needs no run, what draws, and what follows a run.
 */
const GROUPS = [
  { name: 'first', tags: ['$initial' as const], priority: 3 },
  {
    name: 'plain',
    test: /core.src.(quantity|weather|atmosphere|brief.from-report)|node_modules.uuid|web.src.(platform|ui.heading)|app.drill-data/,
    minShareCount: 2,
    priority: 2,
  },
  { name: 'scale', test: /node_modules.d3-(scale|array|color|format|interpolate)|charts.scale/, priority: 2 },
  {
    name: 'run',
    test: /web.src.(run|charts.live|charts.(strip-chart|limit-bands|tick-figures|hatch|frame|phase-plane|band-path|room-bar))|core.src.(watch|procedure|trace|aircraft|power|thermal)/,
    minShareCount: 2,
    priority: 1,
  },
];

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
    rolldownOptions: { output: { codeSplitting: { groups: GROUPS } } },
    chunkSizeWarningLimit: 700, // the zoomable chart, loaded by its route only
  },
});

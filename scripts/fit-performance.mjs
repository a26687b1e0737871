// node scripts/fit-performance.mjs aircraft/skerry-s7 …: power charts, hover model and referred power of each type, computed
// from its simulated plant (turbines) or from the measured hovers of docs/physics.md (pistons). Writes them into its folder.
import path from 'node:path';
import { spawnSync } from 'node:child_process';
import { bundle } from './lib/build.mjs';
import { ROOT } from './lib/pg.mjs';

const outfile = path.join(ROOT, '.local/fit-performance.mjs');
await bundle('scripts/performance/main.ts', outfile);
process.exit(spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 1);

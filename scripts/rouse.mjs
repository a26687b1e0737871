// npm run -s rouse -- COMMAND: builds the command line when its sources changed, then hands over.
import { spawn } from 'node:child_process';
import { build, PROGRAMS } from './lib/build.mjs';
import { installPackages, speakOnStandardError } from './lib/setup.mjs';

speakOnStandardError();
await installPackages();
await build({ quiet: true, page: false });
const child = spawn(process.execPath, [PROGRAMS.cli, ...process.argv.slice(2)], { stdio: 'inherit' });
child.on('exit', (code) => process.exit(code ?? 1));

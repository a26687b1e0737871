// The stand-in device: npm start runs it beside the server. Usage: --type FILE --device HOST:PORT --control PORT
import { readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { parseArgs } from 'node:util';
import { needWatched, typeFileSchema } from '@rouse/core/aircraft';
import { openControlPort } from './control-port.ts';
import { Link } from './link.ts';
import { Unit } from './unit.ts';

const { values } = parseArgs({
  options: { type: { type: 'string' }, device: { type: 'string' }, control: { type: 'string', default: '0' } },
});
if (!values.type || !values.device) {
  console.error('usage: standin --type FILE --device HOST:PORT [--control PORT]');
  process.exit(2);
}
const [host, port] = values.device.split(':');
const type = needWatched(typeFileSchema.parse(JSON.parse(readFileSync(values.type, 'utf8'))));
const link = new Link(host ?? '127.0.0.1', Number(port));
const unit = new Unit(type, (line) => link.send(line));
const control = await openControlPort(Number(values.control), (command) => unit.obey(command)).catch(
  (error: unknown) => {
    console.error(
      `[rouse] the stand-in device cannot listen: ${error instanceof Error ? error.message : String(error)}`,
    );
    process.exit(3); // not worth another try by itself
  },
);
unit.start();
process.send?.({ ready: true, control: (control.address() as AddressInfo).port });

function stop(): void {
  unit.stop();
  link.close();
  control.close();
  process.exit(0);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
process.on('disconnect', stop); // the start command was killed

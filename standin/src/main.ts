// The stand-in device: npm start runs it beside the server. Usage: --unit TYPE=HOST:PORT [--unit ...] --control PORT
import type { AddressInfo } from 'node:net';
import { parseArgs } from 'node:util';
import { shippedType } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { openControlPort } from './control-port.ts';
import { Link } from './link.ts';
import { Unit } from './unit.ts';
import { obeyAmong } from './units.ts';

const { values } = parseArgs({
  options: { unit: { type: 'string', multiple: true }, control: { type: 'string', default: '0' } },
});
const wanted = (values.unit ?? []).map((text) => /^(.+)=([^=:]+):(\d+)$/.exec(text));
if (wanted.length === 0 || wanted.includes(null)) {
  console.error('usage: standin --unit TYPE=HOST:PORT [--unit TYPE=HOST:PORT ...] [--control PORT]');
  process.exit(2);
}
const links: Link[] = [];
const units = wanted.map((found) => {
  const [, name, host, port] = found!;
  const type = shippedType(process.env['APP_ROOT'] ?? process.cwd(), name!);
  if (!type) {
    console.error(`there is no aircraft type named ${name}; name a folder of aircraft/`);
    process.exit(2);
  }
  const link = new Link(host!, Number(port));
  links.push(link);
  return new Unit(needWatched(type), link);
});
const token = process.env['ROUSE_CONTROL_TOKEN'];
if (!token) {
  console.error('ROUSE_CONTROL_TOKEN is not set: the control port obeys whoever knows it');
  process.exit(2);
}
const control = await openControlPort(Number(values.control), token, (command) => obeyAmong(units, command)).catch(
  (error: unknown) => {
    console.error(
      `[rouse] the stand-in device cannot listen: ${error instanceof Error ? error.message : String(error)}`,
    );
    process.exit(3); // not worth another try by itself
  },
);
for (const unit of units) unit.start();
process.send?.({ ready: true, control: (control.address() as AddressInfo).port });

function stop(): void {
  for (const unit of units) unit.stop();
  for (const link of links) link.close();
  control.close();
  process.exit(0);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
process.on('disconnect', stop); // the start command was killed

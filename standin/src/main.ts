// The stand-in device: npm start runs it beside the server. Usage: --unit FILE=HOST:PORT [--unit ...] --control PORT
import { readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { parseArgs } from 'node:util';
import { needWatched, typeFileSchema } from '@rouse/core/aircraft';
import { openControlPort } from './control-port.ts';
import { Link } from './link.ts';
import { Unit } from './unit.ts';
import { obeyAmong } from './units.ts';

const { values } = parseArgs({
  options: { unit: { type: 'string', multiple: true }, control: { type: 'string', default: '0' } },
});
const wanted = (values.unit ?? []).map((text) => /^(.+)=([^=:]+):(\d+)$/.exec(text));
if (wanted.length === 0 || wanted.includes(null)) {
  console.error('usage: standin --unit TYPE-FILE=HOST:PORT [--unit TYPE-FILE=HOST:PORT ...] [--control PORT]');
  process.exit(2);
}
const links: Link[] = [];
const units = wanted.map((found) => {
  const [, file, host, port] = found!;
  const type = needWatched(typeFileSchema.parse(JSON.parse(readFileSync(file!, 'utf8'))));
  const link = new Link(host!, Number(port));
  links.push(link);
  return new Unit(type, link);
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

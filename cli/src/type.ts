import { typeFileJsonSchema, typeFileSchema } from '@rouse/core/aircraft';
import { BadInput, check } from './bad-input.ts';
import { readJson } from './files.ts';

/** `type check F.json` and `type schema`. */
export function type(args: readonly string[], print: (line: unknown) => void): void {
  const [verb, file] = args;
  if (verb === 'schema') print(typeFileJsonSchema());
  else if (verb === 'check' && file) {
    const { id, version, name, channels, items, limits } = check(typeFileSchema, readJson(file));
    print({ ok: true, id, version, name, channels: channels.length, items: items.length, limits: limits.length });
  } else throw new BadInput('USAGE', 'type check FILE.json, or type schema', 'type');
}

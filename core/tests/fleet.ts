import type { TypeFile } from '@rouse/core/aircraft';
import { shippedTypes } from '@rouse/aircraft';

/** Every shipped type, as it is written now. */
export const fleet: TypeFile[] = shippedTypes(process.cwd()).filter(
  (type, i, all) => all.findIndex((t) => t.id === type.id) === i,
);

export function typeOf(id: string): TypeFile {
  return fleet.find((t) => t.id === id)!;
}

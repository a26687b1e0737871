import { z } from 'zod';
import { checkRelations } from './type-relations.ts';
import { typeShape } from './type-shape.ts';

export { type Caption, type StandInPreset, standInPresetSchema, type TypeFile, typeHeadSchema } from './type-shape.ts';

/** The schema of type files, with the relations between their parts. */
export const typeFileSchema = typeShape.superRefine((type, context) =>
  checkRelations(type, (path, message) => context.addIssue({ code: 'custom', path, message })),
);

/** The published JSON Schema of type files. */
export function typeFileJsonSchema(): object {
  return z.toJSONSchema(typeShape, { io: 'input' });
}

import type { z } from 'zod';
import { checkRelations } from './type-relations.ts';
import { type TypeFile, typeShape } from './type-shape.ts';

/** What a schema found in one part of a type, and the way to that part. */
export interface PartIssue {
  above: readonly PropertyKey[];
  issue: z.core.$ZodIssue;
}

type Part = z.ZodSafeParseResult<unknown>;

/** What the members of a list are checked by where each is a part of its own. */
const elementOf = (key: string): z.ZodType | undefined =>
  key === 'items' || key === 'legs' ? typeShape.shape[key].element : undefined;

/**
 * Checks a type as `typeFileSchema` does, part by part and item by item: a part that is the same object as one that was
 * checked before is not checked again. An editor does it after every key.
 */
export class TypeParts {
  private readonly known = new Map<z.ZodType, WeakMap<object, Part>>();

  check(made: Readonly<Record<string, unknown>>): { type: TypeFile | null; issues: PartIssue[] } {
    const issues: PartIssue[] = [];
    const take = (schema: z.ZodType, value: unknown, above: readonly PropertyKey[]): unknown => {
      const { data, error } = this.part(schema, value);
      for (const issue of error?.issues ?? []) issues.push({ above, issue });
      return data;
    };
    const whole: Record<string, unknown> = {};
    for (const [key, schema] of Object.entries<z.ZodType>(typeShape.shape)) {
      const value = made[key];
      const element = elementOf(key);
      const members = element && Array.isArray(value) && value.length > 0;
      whole[key] = members ? value.map((v, i) => take(element, v, [key, i])) : take(schema, value, [key]);
      if (whole[key] === undefined) delete whole[key];
    }
    const keys = Object.keys(made).filter((key) => !(key in typeShape.shape));
    if (keys.length > 0) issues.push({ above: [], issue: { code: 'unrecognized_keys', keys, path: [], message: '' } });
    if (issues.length > 0) return { type: null, issues };
    const type = whole as TypeFile;
    checkRelations(type, (path, message) => issues.push({ above: [], issue: { code: 'custom', path, message } }));
    return { type: issues.length === 0 ? type : null, issues };
  }

  private part(schema: z.ZodType, value: unknown): Part {
    if (typeof value !== 'object' || value === null) return schema.safeParse(value, { reportInput: true });
    let known = this.known.get(schema);
    if (!known) this.known.set(schema, (known = new WeakMap()));
    const before = known.get(value);
    if (before) return before;
    const checked = schema.safeParse(value, { reportInput: true });
    known.set(value, checked);
    return checked;
  }
}

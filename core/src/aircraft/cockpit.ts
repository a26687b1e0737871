import { z } from 'zod';

/** How a hand moves a control: flicked, behind a guard, turned to one of several, held, or moved along its way. */
const CONTROL_KINDS = ['switch', 'guarded', 'selector', 'hold', 'lever'] as const;

/** A place where a control stays by itself: what the simulated aircraft is given there, and its word. */
const positionSchema = z.strictObject({ to: z.union([z.number(), z.string()]), label: z.string() });

/** A control of the cockpit, as a hand finds it. */
export const cockpitControlSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]+$/),
  label: z.string(),
  zone: z.string(),
  kind: z.enum(CONTROL_KINDS),
  /** what it moves on the simulated aircraft; its position is read from the first */
  moves: z.array(z.string()).min(1),
  /** of a lever its ends and detents, rising; of a hold let go and held */
  positions: z.array(positionSchema).min(2),
  /** the key that moves it, until a person binds another one */
  key: z.string().length(1),
  /** what is 1 while a hand is on it: a light hand lets a governor move it */
  hand: z.string().optional(),
});
export type CockpitControl = z.infer<typeof cockpitControlSchema>;

/** The positions of a lever as figures. @returns its least and its most */
export function leverEnds({ positions }: CockpitControl): [number, number] {
  return [Number(positions[0]!.to), Number(positions[positions.length - 1]!.to)];
}

/** Keys that mean something else in a drill: a hint, not good, help. */
export const RESERVED_KEYS = new Set(['h', 'f', '?', ' ', '[', ']']);

/** Controls with names and keys of their own; levers whose way rises. */
export function checkCockpit(
  cockpit: readonly CockpitControl[],
  report: (path: (string | number)[], message: string) => void,
): void {
  cockpit.forEach((control, i) => {
    const { id, key, kind, positions } = control;
    const earlier = cockpit.slice(0, i);
    if (earlier.some((c) => c.id === id)) report(['cockpit', i, 'id'], `${id} is there twice; give one another name`);
    const other = earlier.find((c) => c.key === key);
    if (other) report(['cockpit', i, 'key'], `${key} moves ${other.id} already; give one of them another key`);
    if (RESERVED_KEYS.has(key))
      report(['cockpit', i, 'key'], `${key} means something else in a drill; give another key`);
    const figures = positions.map((p) => Number(p.to));
    if (kind === 'lever' && figures.some((f, k) => !(k === 0 ? f >= 0 && f <= 1 : f > figures[k - 1]! && f <= 1)))
      report(['cockpit', i, 'positions'], 'the places of a lever rise from 0 to 1; put its figures in that order');
    if (kind === 'hold' && positions.length !== 2)
      report(['cockpit', i, 'positions'], 'what is held is let go or held; give these two positions');
  });
}

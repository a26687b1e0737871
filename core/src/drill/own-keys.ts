import { type CockpitControl, RESERVED_KEYS } from '../aircraft/index.ts';

/** Keys that a person has bound, by the control that they move. */
export type OwnKeys = Readonly<Record<string, string>>;

/** Why a key cannot move a control, in words; null when it can. */
export function whyNotKey(controls: readonly CockpitControl[], id: string, key: string): string | null {
  if (!/^[a-z0-9]$/.test(key)) return 'Take a letter from a to z, or a figure.';
  if (RESERVED_KEYS.has(key)) return `${key.toUpperCase()} means something else in a drill; take another key.`;
  const other = controls.find((c) => c.key === key && c.id !== id);
  return other ? `${key.toUpperCase()} moves ${other.label} already; give that one another key first.` : null;
}

/** The controls with a person's own keys; one that would leave two on a key stays as the type has it. */
export function withOwnKeys(controls: readonly CockpitControl[], own: OwnKeys): CockpitControl[] {
  const bound = controls.map((c) => ({ ...c }));
  // what frees a key may stand behind what takes it: gone through again until nothing more fits
  for (let fits = true; fits;) {
    fits = false;
    for (const control of bound) {
      const key = own[control.id];
      if (key === undefined || key === control.key || whyNotKey(bound, control.id, key) !== null) continue;
      control.key = key;
      fits = true;
    }
  }
  return bound;
}

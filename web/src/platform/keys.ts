import { tinykeys } from 'tinykeys';

/** One command on one key: what it is called on the page of keys, and what it does. */
export interface Binding {
  /** as `tinykeys` writes them; several for one command */
  keys: readonly string[];
  /** what the page of keys shows */
  shown: string;
  says: string;
  run: () => void;
  /** a key that is held goes on */
  held?: boolean;
  /** when the key is let go */
  released?: () => void;
}

/**
 * Binds commands to keys. A key that is typed into a field stays there, one that a control or a dialog has used is its
 * own, and a key that is held counts once.
 * @returns how to let them go
 * @throws RangeError when two commands are on one key
 */
export function bindKeys(bindings: readonly Binding[]): () => void {
  const all = bindings.flatMap((b) => b.keys);
  const twice = all.find((key, i) => all.indexOf(key) !== i);
  if (twice !== undefined) throw new RangeError(`two commands on ${twice}`);
  const on = (bound: readonly Binding[], event: 'keydown' | 'keyup', run: (e: KeyboardEvent, b: Binding) => void) =>
    tinykeys(
      window,
      Object.fromEntries(bound.flatMap((b) => b.keys.map((key) => [key, (e: KeyboardEvent) => run(e, b)]))),
      { event },
    );
  const pressed = on(bindings, 'keydown', act);
  const released = on(
    bindings.filter((b) => b.released),
    'keyup',
    (_, b) => b.released!(),
  );
  return () => {
    pressed();
    released();
  };
}

function act(event: KeyboardEvent, { run, held }: Binding): void {
  const target = event.target as HTMLElement;
  if (event.defaultPrevented || (event.repeat && !held)) return;
  if (keeps(target, event.key) || target.closest('[role=dialog]')) return;
  // a control that was reached with Tab keeps its own Space
  if (event.key === ' ' && target.matches('button:focus-visible, a:focus-visible')) return;
  event.preventDefault();
  run();
}

/** Whether what holds the focus has a use of its own for a key: a slider only for those that move it. */
function keeps(target: HTMLElement, key: string): boolean {
  if (target.matches('input[type=range]')) return /^(Arrow|Page|Home$|End$)/.test(key);
  return target.matches('input, textarea, select, [contenteditable]');
}

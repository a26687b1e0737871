import { type CockpitControl, leverEnds } from '@rouse/core/aircraft';
import type { Act, DrillView } from '@rouse/core/drill';
import { useEffect, useRef } from 'react';
import { type Binding, bindKeys } from '../../platform/keys.ts';
import { useStick } from './use-stick.ts';

/** a press of an arrow moves a lever by so much of its way, and with Shift by three times as much */
const STEP = 0.01;
/** a lever is seen where it was put after this long */
const SEEN_AFTER_MS = 2000;

export interface DrillKeys {
  controls: readonly CockpitControl[];
  view: DrillView | null;
  /** the lever that the arrows move */
  lever: string | null;
  take: (lever: string) => void;
  act: (act: Act) => void;
  hint: () => void;
  freeze: () => void;
  stop: () => void;
  end: () => void;
  notGood: () => void;
  /** says the present item is done, where the list is shown */
  answer: () => void;
}

/** The keys of a drill: each control on its own, the lever in hand on the arrows. @param keys null while nothing flies */
export function useDrillKeys(keys: DrillKeys | null): void {
  const now = useRef(keys);
  useEffect(() => {
    now.current = keys;
  });
  const controls = keys?.controls;
  useStick(keys && ((share) => moveTo(now.current, share)));
  useEffect(() => {
    if (!controls) return;
    let aimed = { control: '', to: 0, at_ms: -Infinity };
    const shift = (by: number): void => {
      const { lever, view, act } = now.current ?? {};
      const control = controls.find((c) => c.id === lever);
      if (!control || !view) return;
      const [least, most] = leverEnds(control);
      const now_ms = performance.now();
      // presses come faster than the lever is seen to follow: each goes on from where the last one put it
      const seen = view.positions[control.id]!;
      const follows = aimed.control === control.id && seen !== aimed.to && now_ms - aimed.at_ms < SEEN_AFTER_MS;
      const from = follows ? aimed.to : seen;
      const to = Math.min(most, Math.max(least, from + by * (most - least)));
      aimed = { control: control.id, to, at_ms: now_ms };
      act?.({ kind: 'hand', control: control.id, on: true });
      act?.({ kind: 'move', control: control.id, to });
    };
    const letGo = (): void => {
      const { lever, act } = now.current ?? {};
      if (lever && controls.some((c) => c.id === lever)) act?.({ kind: 'hand', control: lever, on: false });
    };
    const arrows = (key: string, shown: string, by: number): Binding[] => [
      { keys: [key], shown, says: 'the lever in hand', run: () => shift(by), held: true, released: letGo },
      { keys: [`Shift+${key}`], shown: `⇧ ${shown}`, says: 'the lever in hand, faster', run: () => shift(3 * by), held: true },
    ]; // oxfmt-ignore
    const own = (keys: string[], shown: string, says: string, what: keyof DrillKeys): Binding => ({
      keys,
      shown,
      says,
      run: () => (now.current?.[what] as (() => void) | undefined)?.(),
    });
    return bindKeys([
      ...controls.map((control) => bindingOf(control, () => now.current)),
      ...arrows('ArrowUp', '↑', STEP),
      ...arrows('ArrowDown', '↓', -STEP),
      own(['h'], 'H', 'a hint', 'hint'),
      own(['f'], 'F', 'not good', 'notGood'),
      own(['Space'], 'Space', 'freeze, or go on', 'freeze'),
      own(['Enter'], '↵', 'the shown item is done', 'answer'),
      own(['Escape'], 'Esc', 'stop the start', 'stop'),
      own(['Shift+E'], '⇧ E', 'end the lesson', 'end'),
    ]);
  }, [controls]);
}

/** The lever in hand goes where a stick is. */
function moveTo(keys: DrillKeys | null, share: number): void {
  const control = keys?.controls.find((c) => c.id === keys.lever);
  if (!keys || !control) return;
  const [least, most] = leverEnds(control);
  keys.act({ kind: 'hand', control: control.id, on: true });
  keys.act({ kind: 'move', control: control.id, to: least + share * (most - least) });
}

/** A switch goes to its next place, what is held is held while the key is, a lever comes into the hand. */
function bindingOf({ id, kind, key, label, positions }: CockpitControl, now: () => DrillKeys | null): Binding {
  const move = (place: number): void => now()?.act({ kind: 'move', control: id, to: positions[place]!.to });
  const bound = { keys: [key], shown: key.toUpperCase(), says: label };
  if (kind === 'lever') return { ...bound, run: () => now()?.take(id) };
  if (kind === 'hold') return { ...bound, run: () => move(1), released: () => move(0) };
  return { ...bound, run: () => move(((now()?.view?.positions[id] ?? 0) + 1) % positions.length) };
}

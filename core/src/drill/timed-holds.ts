import type { CockpitControl, Item } from '../aircraft/index.ts';

type HoldItem = Extract<Item, { kind: 'hold' }>;

/** Which item is held, since when, and by which control; null where no control of the cockpit is held for it. */
interface Held {
  item: HoldItem;
  since_s: number;
  control: string | null;
}

/** What is pressed and held in a drill, by the clock: as long as a control is kept where its item wants it, or since it was looked at. */
export class TimedHolds {
  private readonly held = new Map<string, Held>();

  begin(item: HoldItem, control: CockpitControl | null, t_s: number): void {
    if (!this.held.has(item.id)) this.held.set(item.id, { item, since_s: t_s, control: control?.id ?? null });
  }

  /** A control has been moved. @returns what it was held for, and is no longer, with its seconds */
  letGo(control: CockpitControl, wants: (item: Item) => boolean, t_s: number): { item: HoldItem; held_s: number }[] {
    const over = [...this.held.values()].filter((h) => h.control === control.id && !wants(h.item));
    return over.map((h) => this.end(h, t_s));
  }

  /** @returns what has been held long enough without a control, with its seconds */
  due(asked_s: (item: HoldItem) => number, t_s: number): { item: HoldItem; held_s: number }[] {
    const over = [...this.held.values()].filter((h) => h.control === null && t_s - h.since_s >= asked_s(h.item));
    return over.map((h) => this.end(h, t_s));
  }

  /** Since when an item is held, null where it is not. */
  sinceOf(item: string | null): number | null {
    return item === null ? null : (this.held.get(item)?.since_s ?? null);
  }

  private end({ item, since_s }: Held, t_s: number): { item: HoldItem; held_s: number } {
    this.held.delete(item.id);
    return { item, held_s: t_s - since_s };
  }
}

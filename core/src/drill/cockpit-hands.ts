import {
  type CockpitControl,
  isPiston,
  type Item,
  leverEnds,
  type StandInAction,
  stagesOf,
  type WatchedType,
} from '../aircraft/index.ts';
import type { SimulatedCockpit } from '../simulator/index.ts';

/** a hand that is this near has put a lever where it belongs */
const LEVER_NEAR = 0.03;

/** The controls of a cockpit in somebody's hands: what each stands at, and what an item wants of it. */
export class CockpitHands {
  readonly controls: readonly CockpitControl[];
  private readonly cockpit: SimulatedCockpit;
  /** where nothing can be read: what it was last put to */
  private readonly put = new Map<string, number | string>();

  constructor(type: WatchedType, cockpit: SimulatedCockpit) {
    this.controls = type.cockpit ?? [];
    this.cockpit = cockpit;
    // a lever that nobody holds is held where it is until a hand was on it
    if (isPiston(type.simulator)) for (const { hand } of this.controls) if (hand) this.send(hand, 1);
  }

  find(id: string): CockpitControl | undefined {
    return this.controls.find((c) => c.id === id);
  }

  /** Moves a control. @throws RangeError for a control, or a place of it, that is not there */
  move(id: string, to: number | string): CockpitControl {
    const control = this.find(id);
    if (!control) throw new RangeError(`there is no control named ${id}`);
    const placed = control.kind === 'lever' ? this.alongWay(control, to) : this.oneOf(control, to);
    for (const moved of control.moves) this.send(moved, placed);
    this.put.set(id, placed);
    return control;
  }

  /** A hand is on a lever, or lets it go. */
  hold(id: string, on: boolean): void {
    const hand = this.find(id)?.hand;
    if (hand) this.send(hand, on ? 1 : 0);
  }

  /** Where a control stands: of a lever along its way, of others the place of its position. */
  positionOf(control: CockpitControl): number {
    const read = Number(this.cockpit.simulation.signal(this.signalOf(control)));
    if (control.kind === 'lever') return Number.isFinite(read) ? read : Number(this.put.get(control.id) ?? 0);
    const words = control.positions.some((p) => typeof p.to === 'string');
    const to = words ? this.wordOf(control, read) : Number.isFinite(read) ? read : (this.put.get(control.id) ?? 0);
    return Math.max(
      0,
      control.positions.findIndex((p) => p.to === to),
    );
  }

  /** The control that a simulated hand means, and where it would put it; null for what is no control of this cockpit. */
  meantBy({ control, to }: StandInAction): { control: CockpitControl; to: number | string } | null {
    if (typeof to !== 'number' && typeof to !== 'string') return null;
    const found = this.controls.find((c) => c.moves[0] === control);
    return found && (found.kind !== 'lever' || typeof to === 'number') ? { control: found, to } : null;
  }

  /** Whether an item, or a stage of it, wants this control at this place. */
  wants(item: Item, control: CockpitControl, to: number | string): boolean {
    const actions = [...(item.standIn ?? []), ...stagesOf(item).flatMap((s) => s.standIn ?? [])];
    return actions.some((a) => control.moves.includes(a.control) && isAt(a.to, to));
  }

  private signalOf({ moves, hand }: CockpitControl): string {
    // a governor moves the lever itself, not where the hand put it
    return hand ? moves[0]! : `control.${moves[0]!}`;
  }

  /** A control with names for its places is read as their number, in the order of the simulated aircraft. */
  private wordOf({ id, positions }: CockpitControl, read: number): number | string {
    const words = positions.map((p) => p.to);
    if (!Number.isFinite(read)) return this.put.get(id) ?? words[0]!;
    // an auxiliary unit is off or runs, with nothing between
    return words[Math.min(words.length - 1, words.length === 2 && read > 0 ? 1 : read)] ?? words[0]!;
  }

  private alongWay(control: CockpitControl, to: number | string): number {
    const [least, most] = leverEnds(control);
    const place = Number(to);
    if (!Number.isFinite(place)) throw new RangeError(`${control.label} cannot be put to ${to}`);
    return Math.min(most, Math.max(least, place));
  }

  private oneOf(control: CockpitControl, to: number | string): number | string {
    if (!control.positions.some((p) => p.to === to)) throw new RangeError(`${control.label} cannot be put to ${to}`);
    return to;
  }

  private send(control: string, to: number | string): void {
    this.cockpit.move({ control, to });
  }
}

function isAt(wanted: StandInAction['to'], to: number | string): boolean {
  return typeof wanted === 'number' && typeof to === 'number' ? Math.abs(wanted - to) <= LEVER_NEAR : wanted === to;
}

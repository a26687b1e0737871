import type { TurbineStart } from '../aircraft/index.ts';
import * as aborts from './abort-calls.ts';
import { ALONE_S, Lasting } from './lasting.ts';
import { SeenFor } from './seen-for.ts';

/** a flicker of flame in the exhaust is no fire yet */
const FIRE_FOR_S = 1.5;

type Columns = Readonly<Record<'fire' | 'selector' | 'controlChannels', number>>;

/** What the fire detector, the selector and the channels of the control say in a start: believed when it lasts. */
export class TurbineControls {
  private readonly byControl: boolean;
  private readonly columns: Columns;
  private readonly deselected = new Lasting();
  private readonly fewChannels = new Lasting();
  private readonly noChannel = new Lasting();
  private readonly burning = new SeenFor();
  private oneChannel = false;

  /** @param columns of the frames, -1 for what is not sensed */
  constructor(spec: TurbineStart, columns: Columns) {
    this.byControl = spec.fuelBy === 'control';
    this.columns = columns;
  }

  reset(): void {
    this.deselected.reset();
    this.fewChannels.reset();
    this.noChannel.reset();
    this.burning.reset();
    this.oneChannel = false;
  }

  /** One frame of a start that goes on. @returns why it is stopped; 'one-channel' once, when one is left; or null */
  judge(dt_s: number, ng_pct: number, values: ArrayLike<number>): aborts.AbortCall | 'one-channel' | null {
    const { fire, selector, controlChannels } = this.columns;
    if (this.burning.update(dt_s, values[fire]!, values[fire]! >= 1) > FIRE_FOR_S) return aborts.fire(ng_pct);
    const deselected = this.deselected.update(dt_s, values[selector] === 0) > ALONE_S;
    if (this.byControl && deselected) return aborts.selectorOff(ng_pct);
    const healthy = values[controlChannels]!;
    if (this.noChannel.update(dt_s, healthy < 1) > ALONE_S) return aborts.controlFault(ng_pct);
    if (this.fewChannels.update(dt_s, healthy < 2) <= ALONE_S || this.oneChannel) return null;
    this.oneChannel = true;
    return 'one-channel';
  }
}

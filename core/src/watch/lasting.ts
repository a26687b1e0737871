/** what one reading alone says that would stop a good start, no fuel, no selector, no magnetos, may be a lost one */
export const ALONE_S = 0.1;

/** How long something has lasted, counted from the first frame that shows it: what came before that frame was seen to be otherwise. */
export class Lasting {
  private lasts_s = 0;
  private was = false;

  reset(): void {
    this.lasts_s = 0;
    this.was = false;
  }

  /** One frame. @param dt_s time since the frame before @returns seconds, 0 while it is not so */
  update(dt_s: number, is: boolean): number {
    this.lasts_s = is && this.was ? this.lasts_s + dt_s : 0;
    this.was = is;
    return this.lasts_s;
  }
}

import { tokenColour } from '../../platform/light.ts';
import { ring } from '../../run/frame-ring.ts';

const EVERY_NTH_FRAME = 2;

/**
 * Strokes the line of one channel from a moment on, broken where its readings are lost.
 * @param x place of a run clock time; @param y place of a value
 */
export function strokeTrack(
  context: CanvasRenderingContext2D,
  channel: number,
  from_s: number,
  x: (t_s: number) => number,
  y: (value: number) => number,
): void {
  context.beginPath();
  let drawn = false;
  for (let i = ring.indexAt(from_s); i < ring.length; i += EVERY_NTH_FRAME) {
    const v = ring.valueAt(channel, i);
    const at = x(ring.timeAt(i));
    if (Number.isNaN(v)) drawn = false;
    else if (drawn) context.lineTo(at, y(v));
    else {
      context.moveTo(at, y(v));
      drawn = true;
    }
  }
  context.stroke();
}

/** A ring where the readings are now. */
export function drawNow(context: CanvasRenderingContext2D, x: number, y: number): void {
  context.fillStyle = tokenColour('--deep');
  context.strokeStyle = tokenColour('--now');
  context.lineWidth = 3.5;
  context.beginPath();
  context.arc(x, y, 7, 0, 7);
  context.fill();
  context.stroke();
}

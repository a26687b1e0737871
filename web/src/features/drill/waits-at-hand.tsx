import { Aid } from '../../ui/heading.ts';

/** A drill that was flown without a server. */
export function WaitsAtHand() {
  return (
    <Aid role="status" data-waits>
      No server is there: it is kept on this device, and counted with its marks as soon as one takes it.
    </Aid>
  );
}

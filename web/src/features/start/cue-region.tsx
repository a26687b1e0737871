import type { Entry } from '@rouse/core/procedure';
import { useState } from 'react';
import { VisuallyHidden } from 'react-aria-components';

/** Says each new cue once to a screen reader: warnings at once, the rest when there is a pause. */
export function CueRegion({ entries }: { entries: readonly Entry[] }) {
  const [from] = useState(entries.length);
  const fresh = entries.slice(from);
  const warning = fresh.findLast((e) => e.kind === 'abort' || (e.kind === 'cue' && e.severity === 'warning'));
  const other = fresh.findLast((e) => e.kind === 'cue' && e.severity !== 'warning');
  return (
    <VisuallyHidden>
      <div role="alert">{warning && 'text' in warning ? warning.text : ''}</div>
      <div role="status">{other && 'text' in other ? other.text : ''}</div>
    </VisuallyHidden>
  );
}

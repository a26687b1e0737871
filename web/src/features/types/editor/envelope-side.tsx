import { setText, writtenTree } from '@rouse/core/authoring';
import { Small } from '../../../ui/heading.ts';
import { type Corner, Corners } from './corners.tsx';
import { Side } from './side.ts';
import type { DraftDesk } from './use-draft.ts';

const FILE = 'loading.yaml';
const POLYGONS = [
  { name: 'long_poly', label: 'Along: weight over arm, aft to the right' },
  { name: 'lat_poly', label: 'Across: weight over arm, right of the centreline to the right' },
] as const;

/** The envelope of the weight, its corners dragged or moved by key: what is moved is written into the file. */
export function EnvelopeSide({ desk, locked }: { desk: DraftDesk; locked: boolean }) {
  const text = desk.folder[FILE] ?? '';
  const envelope = writtenTree(text).find((n) => n.name === 'envelope')?.inner ?? [];
  return (
    <Side tabIndex={0} aria-label="The envelope">
      {POLYGONS.map(({ name, label }) => {
        const corners = cornersOf(envelope.find((n) => n.name === name)?.value);
        const move = (at: number, to: Corner): void => {
          const written = corners!.map((c, i) => `[${(i === at ? to : c).join(', ')}]`).join(', ');
          const after = setText(text, ['envelope', name], `[${written}]`);
          if (after !== null) desk.change(FILE, after);
        };
        return (
          <div key={name} data-envelope={name}>
            <Small>{label}</Small>
            {corners ? (
              <Corners
                label={label}
                corners={corners}
                x={{ unit: 'm', step: 0.005 }}
                y={{ unit: 'kg', step: 5 }}
                locked={locked}
                move={move}
              />
            ) : (
              <p>Write its corners to see it drawn: [[arm, mass], [arm, mass], …]</p>
            )}
          </div>
        );
      })}
      <p>Drag a corner, or move it with the arrow keys; with shift by ten steps.</p>
    </Side>
  );
}

/** The corners as they are written; null where they cannot be read as pairs of figures. */
function cornersOf(value: unknown): Corner[] | null {
  if (typeof value !== 'string') return null;
  try {
    const read: unknown = JSON.parse(value);
    const pair = (c: unknown): c is Corner => Array.isArray(c) && c.length === 2 && c.every((v) => Number.isFinite(v));
    return Array.isArray(read) && read.length > 2 && read.every(pair) ? read : null;
  } catch {
    return null;
  }
}

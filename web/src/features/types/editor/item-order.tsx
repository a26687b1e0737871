import { ITEM_KINDS } from '@rouse/core/aircraft';
import { removeAt, renameMember, setMember, setNames, type YamlPath } from '@rouse/core/authoring';
import { useId, useState } from 'react';
import { Choices } from './choices.tsx';
import { type LegRow, textOf } from './shown.ts';
import type { DraftDesk } from './use-draft.ts';

export interface ItemProps {
  file: string;
  row: LegRow;
  desk: DraftDesk;
  locked: boolean;
}

/** Kind of an item, what comes before it, whether it waits for nobody, and what it leaves out of its place. */
export function ItemOrder({ file, row, desk, locked }: ItemProps) {
  const ids = useId();
  const [needs, setNeeds] = useState<string | null>(null);
  const text = desk.folder[file] ?? '';
  const at = (name: string): YamlPath => [...row.path, name];
  const put = (name: string, value: string | true): void =>
    desk.change(file, value === '' ? removeAt(text, at(name)) : setMember(text, at(name), value));
  const written = [row.fields['needs'] ?? []].flat().map(String).join(', ');
  return (
    <>
      {row.kind !== null && (
        <label>
          Kind
          <select
            disabled={locked}
            value={row.kind}
            onChange={(e) => desk.change(file, renameMember(text, at(row.kind!), e.target.value))}
          >
            {ITEM_KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
        </label>
      )}
      <label>
        After, between commas
        <input
          list={ids}
          readOnly={locked}
          value={needs ?? written}
          onBlur={() => setNeeds(null)}
          onChange={(e) => {
            setNeeds(e.target.value);
            const names = e.target.value.split(',').flatMap((n) => n.trim() || []);
            desk.change(file, setNames(text, at('needs'), names));
          }}
        />
        <Choices id={ids} values={desk.compiled?.type?.items.map((i) => [i.id, i.challenge]) ?? []} />
      </label>
      <label>
        While others are waited for
        <select
          disabled={locked}
          value={row.fields['meanwhile'] === true ? 'yes' : 'no'}
          onChange={(e) => put('meanwhile', e.target.value === 'yes' ? true : '')}
        >
          <option>no</option>
          <option>yes</option>
        </select>
      </label>
      {row.kind === 'set' && (
        <>
          <label>
            Opens, in words
            <input
              readOnly={locked}
              value={textOf(row.fields['opens'])}
              onChange={(e) => put('opens', e.target.value)}
            />
          </label>
          <label>
            Put back by
            <input
              list={ids}
              readOnly={locked}
              value={textOf(row.fields['closedBy'])}
              onChange={(e) => put('closedBy', e.target.value)}
            />
          </label>
        </>
      )}
    </>
  );
}

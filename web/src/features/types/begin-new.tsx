import type { TypeDraft, TypeDraftRow, TypeVersion } from '@rouse/core/contract';
import { type ChangeEvent, type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { troubleIn, useBeginDraftMutation } from '../../app/server-data.ts';
import { getJson, putJson } from '../../platform/api.ts';
import { PrimaryButton } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import { renamed, unpackFolder } from './folder-file.ts';
import { SmallForm } from './small-form.ts';

/** the folder of a type that is like no other */
const NOTHING = 'blank';
const A_FILE = ' file';

/** Another aircraft: begun like one that is there, from nothing, or from a file that somebody exported. */
export function BeginNew({ types }: { types: readonly TypeVersion[] }) {
  const [like, setLike] = useState(NOTHING);
  const [id, setId] = useState('');
  const [name, setName] = useState('');
  const [folder, setFolder] = useState<Record<string, string> | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [begin, { error }] = useBeginDraftMutation();
  const navigate = useNavigate();
  const read = async (event: ChangeEvent<HTMLInputElement>): Promise<void> => {
    const [file] = event.target.files ?? [];
    if (!file) return;
    setTrouble(null);
    setFolder(null);
    try {
      const found = await unpackFolder(file);
      setFolder(found);
      const said = (field: string): string =>
        new RegExp(`^${field}: "?([^"\n]*)"?$`, 'm').exec(found['type.yaml']!)?.[1]?.trim() ?? '';
      setId((before) => before || said('id'));
      setName((before) => before || said('name'));
    } catch (wrong) {
      setTrouble(wrong instanceof Error ? wrong.message : String(wrong));
    }
  };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (like === A_FILE && !folder) return setTrouble('Choose the file that holds the type.');
    const draft = await begin({ like: like === A_FILE ? NOTHING : like, id, name })
      .unwrap()
      .catch(() => null);
    if (!draft) return;
    try {
      if (like === A_FILE) await fill(draft, folder!);
      await navigate(`/types/drafts/${draft.draft}`);
    } catch (wrong) {
      setTrouble(wrong instanceof Error ? wrong.message : String(wrong));
    }
  };
  const wrong = trouble ?? troubleIn(error);
  return (
    <section aria-label="Another aircraft">
      <Small>Another aircraft</Small>
      <SmallForm onSubmit={(e) => void submit(e)}>
        <label>
          Begin
          <select value={like} onChange={(e) => setLike(e.target.value)}>
            <option value={NOTHING}>from nothing, in eight steps</option>
            {types.map((t) => (
              <option key={t.id} value={t.id}>
                like {t.name}
              </option>
            ))}
            <option value={A_FILE}>from a file</option>
          </select>
        </label>
        {like === A_FILE && (
          <label>
            File
            <input type="file" accept=".zip" onChange={(e) => void read(e)} />
          </label>
        )}
        <label>
          Short id
          <input value={id} maxLength={12} required onChange={(e) => setId(e.target.value)} />
        </label>
        <label>
          Name
          <input value={name} maxLength={60} required onChange={(e) => setName(e.target.value)} />
        </label>
        <PrimaryButton type="submit">Begin</PrimaryButton>
      </SmallForm>
      {wrong !== null && <p role="alert">{wrong}</p>}
    </section>
  );
}

/** Writes the files of a type into a draft that was begun from nothing, and takes the rest away. */
async function fill({ draft, typeId, version, name }: TypeDraftRow, folder: Record<string, string>): Promise<void> {
  const { edits } = await getJson<TypeDraft>(`/types/drafts/${draft}?since=-1`);
  const wanted: Record<string, string | null> = {
    ...Object.fromEntries(edits.map((e) => [e.file, null])),
    ...renamed(folder, { typeId, version, name }),
  };
  for (const [file, text] of Object.entries(wanted)) await putJson(`/types/drafts/${draft}/files`, { file, text, seen: 0 }); // oxfmt-ignore
}

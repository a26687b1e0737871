import { usePadsQuery } from '../../app/server-data.ts';
import { Choice } from '../../ui/form.tsx';

/** Where an aircraft stands. */
export function PadChoice({ name, value }: { name: string; value?: string }) {
  const { data: pads } = usePadsQuery();
  if (!pads) return null;
  return (
    <Choice
      name={name}
      label="Stands on"
      {...(value !== undefined && { value })}
      options={pads.map((p) => ({
        value: p.pad,
        label: p.tails.length === 0 ? p.pad : `${p.pad}, ${p.tails.join(' and ')}`,
      }))}
    />
  );
}

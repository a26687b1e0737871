import type { Channel, TypeFile } from '@rouse/core/aircraft';
import {
  type CsvMapping,
  type FileHead,
  type MappedColumn,
  previewOf,
  unitsFor,
  unitToBegin,
  unsureOf,
} from '@rouse/core/replay';
import { useMemo } from 'react';
import styled from 'styled-components';
import { phone, upright } from '../../app/theme.ts';
import { PrimaryButton } from '../../ui/button.tsx';
import { DataTable } from '../../ui/data-table.tsx';
import { Small } from '../../ui/heading.ts';
import { FileFields, TimeFields } from './file-fields.tsx';

const Form = styled.form`
  display: grid;
  gap: 16px;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  align-items: start;
  ${upright} {
    grid-template-columns: minmax(0, 1fr);
  }
  > section {
    background: var(--sheet);
    border: 1px solid var(--line);
    border-radius: 14px;
    padding: 14px 16px;
    display: grid;
    gap: 10px;
  }
`;

const Columns = styled.table`
  border-collapse: collapse;
  width: 100%;
  th,
  td {
    text-align: left;
    padding: 4px 8px 4px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  td:nth-child(2) {
    color: var(--soft);
    max-width: 7.5rem;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  td input {
    width: 5.25rem;
  }
  ${phone} {
    thead {
      display: none;
    }
    tr {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 2px 8px;
      padding: 8px 0;
      border-top: 1px solid var(--hair);
    }
    th,
    td {
      border: 0;
      min-width: 0;
    }
    td:nth-child(3) {
      grid-column: 1 / -1;
    }
    select {
      width: 100%;
    }
  }
`;

const Caution = styled.p`
  background: var(--caution-paper);
  color: var(--caution);
  border-radius: 8px;
  padding: 8px 12px;
`;

const SHOWN_ROWS = 6;

interface MappingFormProps {
  type: TypeFile;
  head: FileHead;
  mapping: CsvMapping;
  kept: boolean;
  busy: boolean;
  change: (mapping: CsvMapping) => void;
  begin: () => void;
  /** what the button says */
  verb: string;
}

/** Which column is which channel, in what unit, and when the run begins; with what comes out of the first rows. */
export function MappingForm({ type, head, mapping, kept, busy, change, begin, verb }: MappingFormProps) {
  const unsure = unsureOf(mapping, type.channels);
  const open = unsure.time || unsure.units.length > 0;
  const preview = useMemo(() => previewOf(head, mapping, type.channels), [head, mapping, type]);
  const { time } = mapping;
  const setTime = (next: Partial<CsvMapping['time']>): void => change({ ...mapping, time: { ...time, ...next } });
  const setColumn = (column: number, next: MappedColumn | null): void =>
    change({
      ...mapping,
      columns: [
        // a channel has one column: the one chosen last
        ...mapping.columns.filter((c) => c.column !== column && c.channel !== next?.channel),
        ...(next ? [next] : []),
      ].toSorted((a, b) => a.column - b.column),
    });
  return (
    <Form
      onSubmit={(e) => {
        e.preventDefault();
        begin();
      }}
    >
      <section>
        <Small>Columns{kept ? ', as kept from the last file of this kind' : ''}</Small>
        <Columns>
          <thead>
            <tr>
              <th scope="col">In the file</th>
              <th scope="col">First figure</th>
              <th scope="col">Channel</th>
              <th scope="col">Unit</th>
              <th scope="col">Times</th>
            </tr>
          </thead>
          <tbody>
            {head.names.map((name, column) => (
              <ColumnRow
                key={`${column} ${name}`}
                type={type}
                name={name}
                first={head.rows[0]?.[column] ?? ''}
                mapped={mapping.columns.find((c) => c.column === column)}
                isTime={time.format !== 'rows' && time.column === column}
                change={(next) => setColumn(column, next && { column, ...next })}
              />
            ))}
          </tbody>
        </Columns>
      </section>
      <section>
        <Small>Time</Small>
        <TimeFields names={head.names} time={time} change={setTime} />
        <FileFields mapping={mapping} change={change} />
        {open && (
          <Caution role="status" data-unsure>
            Choose first:{' '}
            {[
              ...(unsure.time ? ['how the time is written'] : []),
              ...unsure.units.map((id) => `the unit of ${labelOf(type, id)}`),
            ].join(', ')}
            .
          </Caution>
        )}
        <Small>What comes out</Small>
        <FirstRows type={type} mapping={mapping} preview={preview} />
        <PrimaryButton type="submit" isDisabled={busy || open || preview.bad !== null || mapping.columns.length === 0}>
          {verb}
        </PrimaryButton>
      </section>
    </Form>
  );
}

/** The channels that the start watches of a type live by. */
function watchedChannels(type: TypeFile): Channel[] {
  const ids = new Set(
    type.startWatches.flatMap((w) => [w.starter.channel, ...Object.values<string | undefined>(w.channels)]),
  );
  return type.channels.filter((c) => ids.has(c.id));
}

interface ColumnRowProps {
  type: TypeFile;
  name: string;
  first: string;
  mapped: MappedColumn | undefined;
  isTime: boolean;
  change: (to: Omit<MappedColumn, 'column'> | null) => void;
}

/** One column of the file: its first figure, and the channel, unit and factor that it is read with. */
function ColumnRow({ type, name, first, mapped, isTime, change }: ColumnRowProps) {
  const channel = type.channels.find((c) => c.id === mapped?.channel);
  const units = channel ? unitsFor(channel.unit) : [];
  return (
    <tr data-column={name}>
      <th scope="row">{name}</th>
      <td>{first}</td>
      <td>
        {isTime ? (
          'time'
        ) : (
          <select
            aria-label={`Channel of ${name}`}
            value={mapped?.channel ?? ''}
            onChange={(e) => {
              const next = type.channels.find((c) => c.id === e.target.value);
              change(next ? { channel: next.id, unit: unitToBegin(next), scale: 1 } : null);
            }}
          >
            <option value="">leave out</option>
            {type.channels.map((c) => (
              <option key={c.id} value={c.id}>
                {c.label}
              </option>
            ))}
          </select>
        )}
      </td>
      <td>
        {mapped && units.length > 1 ? (
          <select
            aria-label={`Unit of ${name}`}
            value={mapped.unit}
            onChange={(e) => change({ ...mapped, unit: e.target.value })}
          >
            {mapped.unit === '' && <option value="">choose</option>}
            {units.map((u) => (
              <option key={u.id}>{u.id}</option>
            ))}
          </select>
        ) : (
          channel?.unit
        )}
      </td>
      <td>
        {mapped && (
          <input
            aria-label={`Scale of ${name}`}
            inputMode="decimal"
            defaultValue={mapped.scale}
            onChange={(e) => {
              const scale = Number(e.target.value.replace(',', '.'));
              if (Number.isFinite(scale) && scale !== 0) change({ ...mapped, scale });
            }}
          />
        )}
      </td>
    </tr>
  );
}

const labelOf = (type: TypeFile, id: string): string => type.channels.find((c) => c.id === id)!.label;

interface FirstRowsProps extends Pick<MappingFormProps, 'type' | 'mapping'> {
  preview: ReturnType<typeof previewOf>;
}

/** What the first rows come to with this mapping, and what is wrong or missing. */
function FirstRows({ type, mapping, preview }: FirstRowsProps) {
  const shown = mapping.columns.map((c) => type.channels.find((ch) => ch.id === c.channel)!);
  const unseen = watchedChannels(type).filter((c) => !shown.includes(c)).map((c) => c.label.toLowerCase()); // oxfmt-ignore
  return (
    <>
      {preview.bad && (
        <Caution role="status" data-bad>
          Row {preview.bad.row}
          {preview.bad.column && `, column ${preview.bad.column}`}: {preview.bad.message}
        </Caution>
      )}
      {preview.outside.length > 0 && (
        <Caution role="status" data-outside>
          Outside what the gauge can show, perhaps another unit:{' '}
          {preview.outside.map((id) => labelOf(type, id)).join(', ')}
        </Caution>
      )}
      {unseen.length > 0 && <p data-unseen>Not in the file, so the watch cannot judge by it: {unseen.join(', ')}.</p>}
      {mapping.columns.length === 0 ? (
        <p>No column has a channel yet.</p>
      ) : (
        <DataTable
          caption={`First rows, by the channels of the ${type.name}`}
          head={['s', ...shown.map((c) => `${c.short} ${c.unit}`)]}
          rows={preview.rows.slice(0, SHOWN_ROWS).map(({ t_s, values }) => [
            t_s.toFixed(2),
            ...shown.map((c) => {
              const v = values[type.channels.indexOf(c)]!;
              return Number.isNaN(v) ? 'unknown' : v.toFixed(c.decimals);
            }),
          ])}
        />
      )}
    </>
  );
}

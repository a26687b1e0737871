import { type CsvMapping, TIME_FORMATS, type TimeFormat } from '@rouse/core/replay';
import styled from 'styled-components';

const Row = styled.div`
  display: flex;
  gap: 14px;
  flex-wrap: wrap;
`;

const TIME_WORDS: Record<TimeFormat, string> = {
  seconds: 'seconds',
  milliseconds: 'milliseconds',
  clock: 'hours:minutes:seconds',
  'date-time': 'date and time',
  days: 'days since a day, with parts',
  rows: 'none: rows at an even rate',
  unknown: 'choose: the file does not say',
};

interface TimeFieldsProps {
  names: readonly string[];
  time: CsvMapping['time'];
  change: (next: Partial<CsvMapping['time']>) => void;
}

/** How the file writes its time, and where the run begins in it. */
export function TimeFields({ names, time, change }: TimeFieldsProps) {
  return (
    <Row>
      <label>
        Time is written as
        <select value={time.format} onChange={(e) => change({ format: e.target.value as TimeFormat })}>
          {TIME_FORMATS.map((f) => (
            <option key={f} value={f}>
              {TIME_WORDS[f]}
            </option>
          ))}
        </select>
      </label>
      {time.format === 'unknown' ? null : time.format === 'rows' ? (
        <label>
          Rows a second
          <input
            inputMode="decimal"
            defaultValue={time.rate_Hz}
            onChange={(e) => Number(e.target.value) > 0 && change({ rate_Hz: Number(e.target.value) })}
          />
        </label>
      ) : (
        <label>
          In the column
          <select value={time.column} onChange={(e) => change({ column: Number(e.target.value) })}>
            {names.map((name, i) => (
              <option key={`${i} ${name}`} value={i}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      <label>
        The run begins after, s
        <input
          inputMode="decimal"
          defaultValue={time.start_s}
          onChange={(e) => Number(e.target.value) >= 0 && change({ start_s: Number(e.target.value) })}
        />
      </label>
    </Row>
  );
}

interface FileFieldsProps {
  mapping: CsvMapping;
  change: (mapping: CsvMapping) => void;
}

/** How the file is written: what stands before its rows and between them, and what it writes for no reading. */
export function FileFields({ mapping, change }: FileFieldsProps) {
  const { comment: _, missing: __, ...rest } = mapping;
  const words = (text: string): string[] => text.split(/[\s;]+/).filter((w) => w !== '' && w.length <= 20);
  return (
    <Row>
      <label>
        Rows before the figures
        <input
          type="number"
          min={0}
          max={50}
          value={mapping.headerRows}
          onChange={(e) =>
            change({ ...mapping, headerRows: Math.max(0, Math.min(50, Math.floor(Number(e.target.value)))) })
          }
        />
      </label>
      <label>
        Decimal sign
        <select value={mapping.decimal} onChange={(e) => change({ ...mapping, decimal: e.target.value as '.' | ',' })}>
          <option value=".">point</option>
          <option value=",">comma</option>
        </select>
      </label>
      <label>
        Comment lines begin with
        <input
          maxLength={8}
          value={mapping.comment ?? ''}
          onChange={(e) =>
            change(
              e.target.value === ''
                ? { ...rest, ...(mapping.missing && { missing: mapping.missing }) }
                : { ...mapping, comment: e.target.value },
            )
          }
        />
      </label>
      <label>
        No reading is written as
        <input
          placeholder="-999 ****"
          defaultValue={(mapping.missing ?? []).join(' ')}
          onChange={(e) => change({ ...mapping, missing: words(e.target.value).slice(0, 20) })}
        />
      </label>
      <label>
        Figures hold for, s
        <input
          inputMode="decimal"
          defaultValue={mapping.hold_s ?? 0}
          onChange={(e) =>
            Number(e.target.value) >= 0 && change({ ...mapping, hold_s: Math.min(60, Number(e.target.value)) })
          }
        />
      </label>
    </Row>
  );
}

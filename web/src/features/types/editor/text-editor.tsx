import { type ReactNode, useEffect, useRef } from 'react';
import styled from 'styled-components';
import { mono } from '../../../app/theme.ts';
import { PartHead } from './part-head.tsx';
import type { Part } from './parts.ts';
import type { DraftDesk } from './use-draft.ts';

const Text = styled.textarea`
  ${mono}
  display: block;
  width: calc(100% - 2rem);
  margin: 0 16px 16px;
  min-height: 60vh;
  padding: 12px;
  border: 1px solid var(--button-line);
  border-radius: 10px;
  background: var(--sheet);
  color: var(--ink);
  font-size: 0.8125rem;
  line-height: 1.5;
  white-space: pre;
  overflow: auto;
  resize: vertical;
`;

export interface TextEditorProps {
  part: Part;
  desk: DraftDesk;
  line: number | undefined;
  locked: boolean;
  extra: ReactNode;
}

/** A part as the text that it is: remarks and all. */
export function TextEditor({ part, desk, line, locked, extra }: TextEditorProps) {
  const field = useRef<HTMLTextAreaElement>(null);
  const text = desk.folder[part.file] ?? '';
  useEffect(() => {
    const area = field.current;
    if (!area || line === undefined) return;
    const lines = area.value.split('\n');
    const from = lines.slice(0, line - 1).join('\n').length + (line > 1 ? 1 : 0);
    area.focus();
    area.setSelectionRange(from, from + (lines[line - 1]?.length ?? 0));
    area.scrollTop = ((line - 4) / lines.length) * area.scrollHeight;
  }, [line]);
  return (
    <>
      <PartHead title={part.label} about={part.file}>
        {extra}
      </PartHead>
      <Text
        ref={field}
        aria-label={part.label}
        spellCheck={false}
        readOnly={locked}
        value={text}
        onChange={(e) => desk.change(part.file, e.target.value)}
      />
    </>
  );
}

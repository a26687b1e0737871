import { Eye } from 'lucide-react';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Button } from '../../ui/button.tsx';
import { Aid, Small } from '../../ui/heading.ts';
import { stopwatch } from '../../ui/words.ts';
import type { RoomState } from './use-room.ts';

const Code = styled.b`
  ${mono}
  font-size: 1.375rem;
  letter-spacing: 0.12em;
`;

const Note = styled.blockquote`
  margin: 0;
  padding: 8px 10px;
  border-radius: 8px;
  background: var(--usual1);
  font-size: 0.8125rem;
`;

/** Who looks on, and what was said. */
export function WithYou({ room: { code, here, notes, signed, trouble, open } }: { room: RoomState }) {
  return (
    <>
      <Small>With you</Small>
      {code === null ? (
        <Button onPress={open}>Ask an instructor in</Button>
      ) : (
        <p>
          Code <Code data-code>{code}</Code>
        </p>
      )}
      {trouble !== null && <p role="alert">{trouble}</p>}
      {code !== null && here.length === 0 && <Aid>Nobody yet: the instructor types this code on Drill.</Aid>}
      {here.map((name) => (
        <p key={name} data-here={name}>
          <Eye size={16} aria-hidden /> {name} is watching
        </p>
      ))}
      <div role="log" aria-label="What was said">
        {notes.toReversed().map((note, i) => (
          <Note key={`${note.t_s} ${notes.length - i}`} data-note>
            “{note.text}”
            <Aid>
              {note.by}, at {stopwatch(note.t_s)}
            </Aid>
          </Note>
        ))}
      </div>
      {signed !== null && <p data-signed={signed}>Signed by {signed}.</p>}
    </>
  );
}

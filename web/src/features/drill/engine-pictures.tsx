import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { phone } from '../../app/theme.ts';
import { LiveDrawings } from '../../charts/live/drawings.tsx';
import { Room } from '../../charts/live/room.tsx';
import { asWatched } from '../../run/run-slice.ts';

const Pictures = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 16.5rem;
  min-height: 0;
  > section {
    display: grid;
    grid-template-rows: auto minmax(0, 3fr) auto minmax(5rem, 1fr);
    gap: 6px;
    min-height: 0;
    padding-right: 10px;
  }
  > aside {
    border-left: 0;
    grid-area: auto;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    > section {
      display: none;
    }
  }
`;

/**
 * What the engine says while a lesson flies: the drawings of a real run, and the room to the limits.
 * @param told what is to be done is on the screen, so that the drawings may be about it
 */
export function EnginePictures({ told }: { told: boolean }) {
  const followed = useAppSelector((s) => s.run.followed);
  const watched = followed && asWatched(followed);
  if (!watched) return null;
  return (
    <Pictures>
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <section aria-label="Drawings" tabIndex={0}>
        <LiveDrawings followed={watched} follows={told ? 'list' : 'engine'} />
      </section>
      <Room followed={watched} />
    </Pictures>
  );
}

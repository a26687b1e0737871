import styled from 'styled-components';
import { Key } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import type { Binding } from '../../platform/keys.ts';

const List = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr auto 1fr;
  gap: 6px 10px;
  font-size: 0.84375rem;
  align-items: center;
  dd {
    margin: 0;
  }
`;

export function KeyHelp({ keys }: { keys: readonly Pick<Binding, 'shown' | 'says'>[] }) {
  return (
    <section>
      <Small>Keys</Small>
      <List>
        {keys.flatMap(({ shown, says }) => [
          <dt key={shown}>
            <Key>{shown}</Key>
          </dt>,
          <dd key={`${shown} words`}>{says}</dd>,
        ])}
      </List>
    </section>
  );
}

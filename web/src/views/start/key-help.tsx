import styled from 'styled-components';
import { Key } from '../../parts/button.tsx';
import { Small } from '../../parts/heading.ts';
import { RUN_KEYS } from './keys.ts';

const List = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr auto 1fr;
  gap: 6px 10px;
  font-size: 13.5px;
  align-items: center;
  dd {
    margin: 0;
  }
`;

export function KeyHelp() {
  return (
    <section>
      <Small>Keys</Small>
      <List>
        {RUN_KEYS.flatMap(([key, words]) => [
          <dt key={key}>
            <Key>{key}</Key>
          </dt>,
          <dd key={`${key} words`}>{words}</dd>,
        ])}
      </List>
    </section>
  );
}

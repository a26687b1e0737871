import type { Brief, Figure } from '@rouse/core/brief';
import styled from 'styled-components';

const Missing = styled.p`
  font-size: 0.84375rem;
  color: var(--soft);
`;

/** What would supply the figures that are a dash, said once for all of them. */
export function WhatIsMissing({ brief }: { brief: Brief }) {
  const asked = Object.values(brief).flatMap((f: unknown) => (isUnknown(f) ? [f.words] : []));
  const each = [...new Set(asked)];
  return each.length > 0 && <Missing role="status">A dash is unknown: {each.join('; ')}.</Missing>;
}

const isUnknown = (f: unknown): f is Extract<Figure<unknown>, { state: 'unknown' }> =>
  typeof f === 'object' && f !== null && 'state' in f && f.state === 'unknown';

/** A figure that is known, a dash where it is not, or in small words why it is refused. */
export function FigureText<T>({ figure, show }: { figure: Figure<T>; show: (value: T) => string }) {
  return (
    <b data-state={figure.state}>
      {figure.state === 'known' ? (
        show(figure.value)
      ) : figure.state === 'unknown' ? (
        <abbr title={`unknown: ${figure.words}`}>–</abbr>
      ) : (
        figure.words
      )}
    </b>
  );
}

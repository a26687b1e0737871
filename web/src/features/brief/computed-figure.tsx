import type { Figure } from '@rouse/core/brief';

/** A figure that is known, or in small words why it is not. */
export function FigureText<T>({ figure, show }: { figure: Figure<T>; show: (value: T) => string }) {
  return (
    <b data-state={figure.state}>
      {figure.state === 'known'
        ? show(figure.value)
        : figure.state === 'unknown'
          ? `unknown: ${figure.words}`
          : figure.words}
    </b>
  );
}

import { tableOf } from '@rouse/core/authoring';
import styled from 'styled-components';
import { Small } from '../../../ui/heading.ts';
import { Side } from './side.ts';

const Drawing = styled.svg`
  path {
    fill: none;
    stroke: var(--track);
    stroke-width: 1.6;
  }
  circle {
    fill: var(--caution);
  }
`;

const W = 280;
const H = 260;
const PAD = 34;

/** The chart as curves, one an altitude: a figure that is out of line is seen at once. A figure above the one in colder air is marked. */
export function ChartSide({ text }: { text: string }) {
  const { head, rows } = tableOf(text);
  const temperatures = head.slice(1).map(Number);
  const curves = rows.map(({ cells }) => cells.slice(1).map((cell) => (cell === '' ? NaN : Number(cell))));
  const all = curves.flat().filter((v) => !Number.isNaN(v));
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const [cold, hot] = [temperatures[0] ?? 0, temperatures.at(-1) ?? 1];
  if (!(high > low) || !(hot > cold))
    return (
      <Side tabIndex={0} aria-label="The chart">
        Fill the table in to see it drawn.
      </Side>
    );
  const x = (t: number): number => PAD + ((t - cold) / (hot - cold)) * (W - PAD - 10);
  const y = (v: number): number => H - PAD - ((v - low) / (high - low)) * (H - PAD - 16);
  return (
    <Side tabIndex={0} aria-label="The chart">
      <Small>One curve an altitude, by outside air</Small>
      <Drawing viewBox={`0 0 ${W} ${H}`} role="img" aria-label={`${rows.length} curves from ${low} to ${high}`}>
        {curves.map((values, i) => (
          <path key={i} d={pathOf(values.map((v, k) => [x(temperatures[k]!), y(v)]))} />
        ))}
        {curves.flatMap(
          (values, i) =>
          values.flatMap((v, k) => (k > 0 && v > values[k - 1]! ? [<circle key={`${i}/${k}`} r={4} cx={x(temperatures[k]!)} cy={y(v)} />] : [])), // oxfmt-ignore
        )}
        <text x={4} y={y(high) + 4}>
          {high}
        </text>
        <text x={4} y={y(low) + 4}>
          {low}
        </text>
        <text x={PAD} y={H - 12}>
          {cold} °C
        </text>
        <text x={W - 8} y={H - 12} textAnchor="end">
          {hot} °C
        </text>
      </Drawing>
    </Side>
  );
}

/** A line through what is there; a hole breaks it. */
function pathOf(points: readonly (readonly [number, number])[]): string {
  let open = false;
  return points
    .map(([px, py]) => {
      if (Number.isNaN(py)) {
        open = false;
        return '';
      }
      const piece = `${open ? 'L' : 'M'}${px.toFixed(1)} ${py.toFixed(1)}`;
      open = true;
      return piece;
    })
    .join('');
}

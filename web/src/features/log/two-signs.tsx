import type { SignTrend } from '@rouse/core/trends';
import { ChartTitle, Sheet } from '../../charts/frame.tsx';
import { linearScale } from '../../charts/scale.ts';
import { useSize } from '../../platform/size.ts';

/** Starts that both signs have, oldest first. */
function pairsOf(a: SignTrend, b: SignTrend): { x: number; y: number }[] {
  const other = new Map(b.points.filter((p) => !p.leftOut).map((p) => [p.run, p.value]));
  return a.points.flatMap((p) => {
    const y = other.get(p.run);
    return p.leftOut || y === undefined ? [] : [{ x: p.value, y }];
  });
}

/** Two signs of the same starts: where they move together, one cause moves both. */
export function TwoSigns({ first, second }: { first: SignTrend; second: SignTrend }) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const pairs = pairsOf(first, second);
  const domain = (values: number[]): [number, number] => {
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const room = 0.1 * (high - low || 1);
    return [low - room, high + room];
  };
  const x = linearScale(domain(pairs.map((p) => p.x)), [44, size.width - 12]);
  const y = linearScale(domain(pairs.map((p) => p.y)), [size.height - 26, 12]);
  const recent = Math.ceil(pairs.length / 2);
  return (
    <div style={{ display: 'grid', gridTemplate: 'auto minmax(0, 1fr) / minmax(0, 1fr)', gap: 6, minHeight: 0, minWidth: 0 }}>
      <ChartTitle title="Two signs together" about={`${second.sign.label} over ${first.sign.label}`} />
      <Sheet ref={sheet}>
        {size.width > 0 && pairs.length > 1 ? (
          <svg role="img" aria-label={`${second.sign.label} over ${first.sign.label}, ${pairs.length} starts`}>
            {y.ticks(4).map((v) => (
              <text key={v} x={38} y={y(v) + 4} textAnchor="end" fill="var(--soft)">{v}</text>
            ))}
            {x.ticks(4).map((v) => (
              <text key={v} x={x(v)} y={size.height - 8} textAnchor="middle" fill="var(--soft)">{v}</text>
            ))}
            {pairs.map((p, i) => (
              <circle key={i} cx={x(p.x)} cy={y(p.y)} r="3.6" fill={i < pairs.length - recent ? 'var(--usual3)' : 'var(--ink)'} />
            ))}
            <circle cx={x(pairs.at(-1)!.x)} cy={y(pairs.at(-1)!.y)} r="6" fill="var(--sheet)" stroke="var(--now)" strokeWidth="3" />
          </svg>
        ) : (
          <p style={{ padding: 14, fontSize: '0.875rem' }}>No start has both yet.</p>
        )}
      </Sheet>
    </div>
  );
} // oxfmt-ignore

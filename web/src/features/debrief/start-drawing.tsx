import type { WatchedType } from '@rouse/core/aircraft';
import type { Debrief } from '@rouse/core/contract';
import type { Trace } from '@rouse/core/trace';
import type { Corridor } from '@rouse/core/watch';
import { SlimButton } from '../../ui/button.tsx';
import type { OtherStart } from './other-start.ts';
import { SpeedOverTime } from './speed-over-time.tsx';
import { StartAgainstUsual } from './start-against-usual.tsx';

interface StartDrawingProps {
  other: OtherStart | null;
  type: WatchedType;
  trace: Trace;
  corridors: Record<string, Corridor | null>;
  starts: Debrief['starts'];
  start: Debrief['starts'][number] | undefined;
  choose: (at: number) => void;
}

/** One of the starts of a run, drawn as its kind of engine asks; the others are a button away. */
export function StartDrawing({ type, trace, corridors, starts, start, choose, other }: StartDrawingProps) {
  const specOf = (watch: string | undefined) => type.startWatches.find((w) => w.id === watch) ?? type.startWatches[0];
  const spec = specOf(start?.watch);
  const buttons =
    starts.length > 1 &&
    starts.map((s, i) => (
      <SlimButton key={`${s.watch} ${s.attempt}`} aria-pressed={s === start} onPress={() => choose(i)}>
        {specOf(s.watch).label}
        {s.attempt > 1 ? `, ${s.attempt}` : ''}
      </SlimButton>
    ));
  const features = start?.features ?? {};
  return spec.kind === 'piston' ? (
    <SpeedOverTime spec={spec} trace={trace} features={features} other={other}>
      {buttons}
    </SpeedOverTime>
  ) : (
    <StartAgainstUsual
      type={type}
      spec={spec}
      trace={trace}
      corridor={corridors[spec.id] ?? null}
      features={features}
      other={other}
    >
      {buttons}
    </StartAgainstUsual>
  );
}

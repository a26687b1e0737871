import type { Debrief } from '@rouse/core/contract';
import styled from 'styled-components';
import { useAskWhatIfMutation, useStartActsQuery } from '../../app/log-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { type WhatIfDrawn, WhatIfPanel } from '../../charts/what-if.tsx';
import { stopwatch } from '../../ui/words.ts';

/** It stands where a drawing and its head stand otherwise. */
const Tall = styled.div`
  grid-row: span 2;
  min-height: 0;
  display: grid;
`;

const LINES = ['recorded', 'was', 'would'] as const;

/** What if I had not, of a start that was really flown: an estimate on the twin of its aircraft. */
export function WhatIfOfStart({ run, start: { watch, attempt } }: { run: string; start: Debrief['starts'][number] }) {
  const { currentData: done, error } = useStartActsQuery({ run, watch, attempt });
  const [ask, { data, isLoading, error: refused }] = useAskWhatIfMutation();
  if (!done)
    return (
      <Tall>
        <p role={error ? 'alert' : 'status'}>{troubleIn(error) ?? 'Reading what was done…'}</p>
      </Tall>
    );
  const drawn: WhatIfDrawn | null = data
    ? { ...data, differs_s: null, lines: LINES.map((how) => ({ ...data[how], how })) }
    : null;
  return (
    <Tall>
      <WhatIfPanel
        acts={done.acts.map(({ t_s, words }, i) => ({ i, words: `${stopwatch(t_s)} ${words}` }))}
        begun_s={0}
        legend="over seconds from the starter: thick as it was recorded, thin as the twin of this aircraft flies it, dashed as it would have been."
        answer={isLoading ? 'asked' : drawn}
        trouble={troubleIn(refused)}
        ask={(change) => void ask({ run, asked: { ...change, watch, attempt } })}
      />
    </Tall>
  );
}

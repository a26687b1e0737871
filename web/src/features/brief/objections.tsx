import type { Objection } from '@rouse/core/brief';
import { useState } from 'react';
import { useMay } from '../../app/session-data.ts';
import { Button } from '../../ui/button.tsx';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import type { BriefDesk } from './desk.ts';
import { Part } from './part.ts';

/** What speaks against beginning: a reason goes on past a caution, an engineer settles an exceedance. */
export function Objections({ desk }: { desk: BriefDesk }) {
  const { brief, input, set } = desk;
  if (brief.objections.length === 0)
    return (
      <Part>
        <em>Held by</em>
        <b>Nothing</b>
        <p>No open exceedance, nothing missing that is a no-go.</p>
      </Part>
    );
  return (
    <>
      {brief.objections.map((objection) => (
        <Part key={objection.id} data-severity={objection.severity} data-hold={objection.id}>
          <em>{objection.severity === 'no-go' ? 'Held by, no-go' : 'Look out for'}</em>
          <b>{objection.title}</b>
          <p>{objection.words}</p>
          {objection.severity === 'caution' && (
            <input
              aria-label={`Go on past: ${objection.title}. Reason`}
              placeholder="Go on, because …"
              maxLength={500}
              value={input.accepted[objection.id] ?? ''}
              onChange={(e) => set({ accepted: { ...input.accepted, [objection.id]: e.target.value } })}
            />
          )}
          {objection.exceedance && <Release exceedance={objection.exceedance} reload={desk.reload} />}
        </Part>
      ))}
    </>
  );
}

function Release({
  exceedance: { run, seq },
  reload,
}: Required<Pick<Objection, 'exceedance'>> & Pick<BriefDesk, 'reload'>) {
  const mayRelease = useMay('release');
  const [found, setFound] = useState('');
  const [refusal, setRefusal] = useState<string | null>(null);
  const release = async (): Promise<void> => {
    try {
      await postJson(`/exceedances/${run}/${seq}/release`, { found });
      await reload();
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      setRefusal(`${error.message} ${error.remedy}`);
    }
  };
  if (!mayRelease) return <p>An engineer signs in and releases it here.</p>;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void release();
      }}
    >
      <input
        aria-label="What was found and done"
        placeholder="What was found and done"
        maxLength={2000}
        value={found}
        onChange={(e) => setFound(e.target.value)}
      />
      {refusal !== null && <p role="alert">{refusal}</p>}
      <Button type="submit">Release it</Button>
    </form>
  );
}

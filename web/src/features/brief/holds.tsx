import type { Hold } from '@rouse/core/brief';
import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import type { BriefDesk } from './desk.ts';
import { Part } from './part.ts';

/** What speaks against beginning: a reason goes on past a caution, an engineer settles an exceedance. */
export function Holds({ desk }: { desk: BriefDesk }) {
  const { brief, input, set } = desk;
  if (brief.holds.length === 0)
    return (
      <Part>
        <em>Held by</em>
        <b>Nothing</b>
        <p>No open exceedance, nothing missing that is a no-go.</p>
      </Part>
    );
  return (
    <>
      {brief.holds.map((hold) => (
        <Part key={hold.id} data-severity={hold.severity} data-hold={hold.id}>
          <em>{hold.severity === 'no-go' ? 'Held by, no-go' : 'Look out for'}</em>
          <b>{hold.title}</b>
          <p>{hold.words}</p>
          {hold.severity === 'caution' && (
            <input
              aria-label={`Go on past: ${hold.title}. Reason`}
              placeholder="Go on, because …"
              maxLength={500}
              value={input.accepted[hold.id] ?? ''}
              onChange={(e) => set({ accepted: { ...input.accepted, [hold.id]: e.target.value } })}
            />
          )}
          {hold.exceedance && <Release exceedance={hold.exceedance} reload={desk.reload} />}
        </Part>
      ))}
    </>
  );
}

function Release({ exceedance: { run, seq }, reload }: Required<Pick<Hold, 'exceedance'>> & Pick<BriefDesk, 'reload'>) {
  const [engineer, setEngineer] = useState('');
  const [found, setFound] = useState('');
  const [refusal, setRefusal] = useState<string | null>(null);
  const release = async (): Promise<void> => {
    try {
      await postJson(`/exceedances/${run}/${seq}/release`, { engineer, found });
      await reload();
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      setRefusal(`${error.message} ${error.remedy}`);
    }
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void release();
      }}
    >
      <input
        aria-label="Engineer who looked"
        placeholder="Engineer who looked"
        maxLength={100}
        value={engineer}
        onChange={(e) => setEngineer(e.target.value)}
      />
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

import { UserRound } from 'lucide-react';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { useMember } from '../../app/session-data.ts';
import { bindKeys } from '../../platform/keys.ts';

const HandOverDialog = lazy(async () => ({ default: (await import('./hand-over-dialog.tsx')).HandOverDialog }));

/** Who is signed in, and the one key that hands a tablet on. */
export function HandOver({ className }: { className?: string | undefined }) {
  const member = useMember();
  const { pathname } = useLocation();
  const [open, setOpen] = useState(false);
  useEffect(() => bindKeys([{ keys: ['F2'], shown: 'F2', says: 'hand over', run: () => setOpen(true) }]), []);
  if (!member) return null;
  return (
    <>
      <button
        type="button"
        className={className}
        onClick={() => setOpen(true)}
        aria-label={`${member.name}: hand over, sign out`}
      >
        <UserRound size={20} aria-hidden />
        <span>{member.name}</span>
      </button>
      {open && (
        <Suspense fallback={null}>
          <HandOverDialog run={/^\/start\/([0-9a-f-]{36})$/.exec(pathname)?.[1]} close={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}

import { UserRound } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Dialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import { Link, useLocation } from 'react-router';
import styled from 'styled-components';
import { useMember, useSessionQuery, useSignOutMutation, useTakeOverMutation } from '../../app/session-data.ts';
import { bindKeys } from '../../platform/keys.ts';
import { Button, buttonLook } from '../../ui/button.tsx';
import { TabletDoor } from './sign-in.tsx';

const Over = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 15;
  background: color-mix(in srgb, var(--ink) 40%, transparent);
  display: grid;
  place-items: center;
  padding: 16px;
  section[role='dialog'] {
    background: var(--paper);
    border-radius: 14px;
    padding: 20px 22px 22px;
    display: grid;
    gap: 14px;
    width: min(28.75rem, 100%);
    max-height: calc(100vh - 2rem);
    overflow: auto;
    outline: none;
  }
  h2 {
    font-size: 1.1875rem;
  }
`;

const MeLink = styled(Link)`
  ${buttonLook}
`;

/** Who is signed in, and the one key that hands a tablet on. */
export function HandOver({ className }: { className?: string | undefined }) {
  const member = useMember();
  const { data: session } = useSessionQuery();
  const [signOut] = useSignOutMutation();
  const [takeOver] = useTakeOverMutation();
  const { pathname } = useLocation();
  const [open, setOpen] = useState(false);
  useEffect(() => bindKeys([{ keys: ['F2'], shown: 'F2', says: 'hand over', run: () => setOpen(true) }]), []);
  if (!member) return null;
  const run = /^\/start\/([0-9a-f-]{36})$/.exec(pathname)?.[1];
  const handed = (): void => {
    setOpen(false);
    if (run !== undefined) void takeOver(run);
  };
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
      <Over isOpen={open} onOpenChange={setOpen} isDismissable>
        <Modal>
          <Dialog aria-label="Hand over">
            <Heading level={2}>{member.name}</Heading>
            <p>
              {member.roles.join(', ') || 'no role'} at {member.operator}
            </p>
            {session?.tablet && <TabletDoor tablet={session.tablet} done={handed} />}
            <MeLink to="/set-up/me" onClick={() => setOpen(false)}>
              Your sign-in
            </MeLink>
            <Button
              onPress={() => {
                setOpen(false);
                void signOut();
              }}
            >
              Sign out
            </Button>
            <Button onPress={() => setOpen(false)}>Stay signed in</Button>
          </Dialog>
        </Modal>
      </Over>
    </>
  );
}

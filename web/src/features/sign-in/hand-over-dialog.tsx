import { Dialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import { Link } from 'react-router';
import styled from 'styled-components';
import { useMember, useSession, useSignOutMutation, useTakeOverMutation } from '../../app/session-data.ts';
import { Button, buttonLook } from '../../ui/button.tsx';
import { TabletDoor } from './tablet-door.tsx';

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

/** Hands the tablet on, with the run that is open on it; or signs out. @param run on this page, undefined for none */
export function HandOverDialog({ run, close }: { run: string | undefined; close: () => void }) {
  const member = useMember();
  const { data: session } = useSession();
  const [signOut] = useSignOutMutation();
  const [takeOver] = useTakeOverMutation();
  if (!member) return null;
  const handed = (): void => {
    close();
    if (run !== undefined) void takeOver(run);
  };
  return (
    <Over isOpen onOpenChange={close} isDismissable>
      <Modal>
        <Dialog aria-label="Hand over">
          <Heading level={2}>{member.name}</Heading>
          <p>
            {member.roles.join(', ') || 'no role'} at {member.operator}
          </p>
          {session?.tablet && <TabletDoor tablet={session.tablet} done={handed} />}
          <MeLink to="/set-up/me" onClick={close}>
            Your sign-in
          </MeLink>
          <Button
            onPress={() => {
              close();
              void signOut();
            }}
          >
            Sign out
          </Button>
          <Button onPress={close}>Stay signed in</Button>
        </Dialog>
      </Modal>
    </Over>
  );
}

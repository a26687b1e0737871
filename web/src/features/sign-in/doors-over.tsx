import type { ReactNode } from 'react';
import { Dialog, Modal, ModalOverlay } from 'react-aria-components';
import styled from 'styled-components';

const Over = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 20;
  background: var(--paper);
  > div,
  section[role='dialog'] {
    height: 100%;
    outline: none;
  }
`;

/** The doors, over a page that stays as it is behind them. */
export const DoorsOver = ({ children }: { children: ReactNode }) => (
  <Over isOpen>
    <Modal>
      <Dialog aria-label="Sign in">{children}</Dialog>
    </Modal>
  </Over>
);

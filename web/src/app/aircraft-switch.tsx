import { ChevronsUpDown } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button as AriaButton, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { bindKeys } from '../platform/keys.ts';
import { buttonLook, Key } from '../ui/button.tsx';
import { useKeepInHand } from './aircraft-in-hand.tsx';
import { useTodayQuery } from './server-data.ts';

const Opener = styled(AriaButton)`
  ${buttonLook}
  min-height: 2.5rem;
  padding: 4px 10px;
  border-color: transparent;
  background: none;
  font-size: 1.25rem;
  font-weight: 720;
  line-height: 1.15;
  white-space: nowrap;
  margin-left: -10px;
`;

const Choices = styled(Menu)`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 11px;
  box-shadow: 0 8px 28px rgb(0 0 0 / 18%);
  padding: 6px;
  max-height: min(70vh, 32.5rem);
  overflow: auto;
  min-width: 16.25rem;
  outline: none;
`;

const Choice = styled(MenuItem)`
  display: flex;
  justify-content: space-between;
  gap: 18px;
  align-items: center;
  min-height: 3rem;
  padding: 4px 12px;
  border-radius: 8px;
  cursor: pointer;
  outline: none;
  span {
    color: var(--soft);
    font-size: 0.84375rem;
  }
  &[data-focused] {
    background: var(--usual1);
  }
`;

/** Which aircraft a page is about, and the way to another one: key A. */
export function AircraftSwitch({ aircraft, tail, to }: { aircraft: string; tail: string; to: (aircraft: string) => string }) {
  const { data: today } = useTodayQuery();
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  useKeepInHand(aircraft);
  useEffect(() => bindKeys([{ keys: ['a'], shown: 'A', says: 'Another aircraft', run: () => setOpen(true) }]), []);
  return (
    <MenuTrigger isOpen={open} onOpenChange={setOpen}>
      <Opener aria-label={`${tail} A: another aircraft`}>
        {tail} <ChevronsUpDown size={16} aria-hidden /> <Key>A</Key>
      </Opener>
      <Popover placement="bottom start">
        <Choices aria-label="Aircraft" onAction={(id) => void navigate(to(String(id)))}>
          {(today?.aircraft ?? []).map((a) => (
            <Choice key={a.aircraft} id={a.aircraft} textValue={a.tail}>
              <b>{a.tail}</b>
              <span>{a.openRun ? 'running' : a.type.name}</span>
            </Choice>
          ))}
        </Choices>
      </Popover>
    </MenuTrigger>
  );
} // oxfmt-ignore

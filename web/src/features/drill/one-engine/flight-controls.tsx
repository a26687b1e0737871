import type { PracticeNow } from '@rouse/core/drill';
import { Button, Key, PrimaryButton } from '../../../ui/button.tsx';
import { Small } from '../../../ui/heading.ts';
import { Slider } from '../../../ui/slider.tsx';
import type { PracticeControls } from './use-practice.ts';

export const LIMITERS = [
  { id: 'AUTO', label: 'as the control selects it', key: 'Q' },
  { id: '2min', label: 'two minutes', key: 'E' },
  { id: 'cont', label: 'continuous', key: 'R' },
  { id: 'override', label: 'override, no limit', key: 'O' },
] as const;

interface Props {
  now: PracticeNow;
  flying: boolean;
  send: PracticeControls['send'];
  stop: () => void;
}

/** What can be done in the exercise: training mode, a failure, the limiter, the collective. */
export function FlightControls({ now, flying, send, stop }: Props) {
  return (
    <>
      <Button
        aria-pressed={now.training}
        isDisabled={!flying}
        onPress={() => send({ kind: 'training', on: !now.training })}
      >
        Training mode {now.training ? 'on' : 'off'} <Key>T</Key>
      </Button>
      {([1, 2] as const).map((engine) => (
        <Button key={engine} isDisabled={!flying || now.failed !== null} onPress={() => send({ kind: 'fail', engine })}>
          Engine {engine} fails now <Key>{engine}</Key>
        </Button>
      ))}
      <Small>Limiter</Small>
      {LIMITERS.map((l) => (
        <Button
          key={l.id}
          aria-pressed={now.limiter === l.id}
          isDisabled={!flying}
          onPress={() => send({ kind: 'limiter', limiter: l.id })}
        >
          {now.limiter === l.id ? '● ' : ''}
          {l.label} <Key>{l.key}</Key>
        </Button>
      ))}
      <Slider
        label="Collective"
        value={Math.round(100 * now.collective)}
        onChange={(v) => send({ kind: 'collective', to: v / 100 })}
        range={[0, 100]}
        step={1}
        said={`${Math.round(100 * now.collective)} %`}
      />
      <Button isDisabled={!flying || !now.handFlown} onPress={() => send({ kind: 'hand-back' })}>
        {now.handFlown ? 'Hold this height for me' : 'Height is held; ↑ ↓ take the collective'} <Key>H</Key>
      </Button>
      <PrimaryButton onPress={stop}>
        {flying ? 'End and keep the result' : 'Keep the result'} <Key>Esc</Key>
      </PrimaryButton>
    </>
  );
}

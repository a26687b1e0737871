import { Label, Slider as AriaSlider, SliderOutput, SliderThumb, SliderTrack } from 'react-aria-components';
import styled from 'styled-components';
import { mono } from '../app/theme.ts';

const Box = styled(AriaSlider)`
  display: grid;
  grid-template: auto 3rem / 1fr auto;
  align-items: baseline;
  border-top: 1px solid var(--hair);
  padding-top: 5px;
  label {
    font-size: 0.875rem;
  }
  output {
    ${mono}
    font-weight: 650;
    font-size: 1rem;
  }
`;

const Track = styled(SliderTrack)`
  grid-column: 1 / -1;
  position: relative;
  height: 3rem;
  width: 100%;
  cursor: pointer;
  &::before {
    content: '';
    position: absolute;
    inset: 21px 0;
    border-radius: 3px;
    background: var(--usual2);
  }
`;

const Thumb = styled(SliderThumb)`
  width: 26px;
  height: 26px;
  top: 24px;
  border-radius: 50%;
  background: var(--sheet);
  border: 6px solid var(--now);
  &[data-focus-visible] {
    outline: 3px solid var(--now);
    outline-offset: 2px;
  }
`;

interface SliderProps {
  label: string;
  value: number;
  onChange: (value: number) => void;
  range: readonly [number, number];
  step: number;
  /** the value as it is said, with its unit */
  said: string;
}

/** One figure to play with: by pointer, touch, or the arrow keys. */
export function Slider({ label, value, onChange, range: [low, high], step, said }: SliderProps) {
  return (
    <Box value={value} onChange={(v) => onChange(v as number)} minValue={low} maxValue={high} step={step}>
      <Label>{label}</Label>
      <SliderOutput>{said}</SliderOutput>
      <Track>
        <Thumb />
      </Track>
    </Box>
  );
}

import { MOST_CURVE, MOST_DEAD, stickShare, USUAL_STICK } from '@rouse/core/drill';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { everyPulse } from '../../platform/pulse.ts';
import { Button } from '../../ui/button.tsx';
import { inputLook } from '../../ui/field-look.ts';
import { Aid, Small } from '../../ui/heading.ts';
import { Slider } from '../../ui/slider.tsx';
import { keepStick, pluggedIn, stickOf } from './own-hands.ts';

const Axis = styled.label`
  display: grid;
  gap: 4px;
  font-size: 0.875rem;
  ${inputLook}
`;

/** a controller is looked for, and read, so often */
const LOOK_EVERY_MS = 100;

/** One game controller: which axis moves the lever in hand, what of it is no hand, how it is spread. */
export function StickSettings() {
  const [pad, setPad] = useState<{ id: string; axes: readonly number[] } | null>(null);
  const [, setKept] = useState(0);
  useEffect(() => {
    const look = (): void => {
      const found = pluggedIn();
      setPad(found && { id: found.id, axes: [...found.axes] });
    };
    return everyPulse(LOOK_EVERY_MS, look);
  }, []);
  if (!pad)
    return (
      <>
        <Small>Game controller</Small>
        <Aid>None is there. Plug one in and move it: the browser shows it from its first move on.</Aid>
      </>
    );
  const setting = stickOf(pad.id);
  const keep = (changed: Partial<typeof setting>): void => {
    keepStick(pad.id, { ...setting, ...changed });
    setKept((n) => n + 1);
  };
  const share = stickShare(pad.axes[setting.axis] ?? setting.most, setting);
  return (
    <>
      <Small>{pad.id}</Small>
      <Axis>
        Axis of the lever in hand
        <select value={setting.axis} onChange={(e) => keep({ ...USUAL_STICK, dead: setting.dead, curve: setting.curve, axis: Number(e.target.value) })}>
          {pad.axes.map((_, i) => (
            <option key={i} value={i}>
              {i + 1}
            </option>
          ))}
        </select>
      </Axis>
      <meter min={0} max={1} value={share} aria-label="Lever in hand" data-share={share.toFixed(2)} />
      <Slider label="Moves smaller than this are none" value={setting.dead} range={[0, MOST_DEAD]} step={0.01} onChange={(dead) => keep({ dead })} said={percent(setting.dead)} />
      <Slider label="Finer near closed" value={setting.curve} range={[1, MOST_CURVE]} step={0.1} onChange={(curve) => keep({ curve })} said={setting.curve.toFixed(1)} />
      <Button onPress={() => keep({ least: USUAL_STICK.least, most: USUAL_STICK.most })}>Calibrate again</Button>
      <Aid>Its ends are what it has shown: move it once from end to end.</Aid>
    </>
  );
} // oxfmt-ignore

const percent = (share: number): string => `${Math.round(100 * share)} %`;

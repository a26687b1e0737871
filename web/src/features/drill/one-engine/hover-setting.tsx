import type { WatchedType } from '@rouse/core/aircraft';
import { usualMass_kg } from '@rouse/core/loading';
import { PrimaryButton } from '../../../ui/button.tsx';
import { Small } from '../../../ui/heading.ts';
import { Slider } from '../../../ui/slider.tsx';
import { useUnits } from '../../../ui/units.ts';

/** The hover that an exercise begins in. */
export interface Setting {
  mass_kg: number;
  oat_C: number;
  height_ft: number;
}

export const usualSetting = (type: WatchedType): Setting => ({
  mass_kg: usualMass_kg(type.loading),
  oat_C: 15,
  height_ft: 100,
});

interface Props {
  type: WatchedType;
  setting: Setting;
  change: (to: Partial<Setting>) => void;
  begin: () => void;
}

/** Weight, air and height of the hover to begin in. */
export function HoverSetting({ type, setting: { mass_kg, oat_C, height_ft }, change, begin }: Props) {
  const { show } = useUnits();
  const { empty_kg, mtow_kg } = type.loading;
  return (
    <>
      <Small>The hover</Small>
      <Slider
        label="Weight"
        value={mass_kg}
        onChange={(to) => change({ mass_kg: to })}
        range={[Math.ceil((1.1 * empty_kg) / 10) * 10, mtow_kg]}
        step={10}
        said={show(mass_kg, 'mass', 'ceil')}
      />
      <Slider
        label="Outside air"
        value={oat_C}
        onChange={(to) => change({ oat_C: to })}
        range={[-20, 40]}
        step={1}
        said={show(oat_C, 'temperature')}
      />
      <Slider
        label="Height of the skids"
        value={height_ft}
        onChange={(to) => change({ height_ft: to })}
        range={[5, 500]}
        step={5}
        said={`${height_ft} ft`}
      />
      <PrimaryButton onPress={begin} autoFocus>
        Begin the hover
      </PrimaryButton>
    </>
  );
}

import { Small } from '../../ui/heading.ts';
import { SlimButton } from '../../ui/button.tsx';
import { PlainField, QuantityField } from '../../ui/quantity-field.tsx';
import { useUnits } from '../../ui/units.ts';
import { FigureText } from './computed-figure.tsx';
import type { BriefDesk } from './desk.ts';
import { Block, Computed, Notes, Two } from './fields.ts';

/** The day: pasted as a report, or typed; a typed figure counts over the report's. */
export function Day({ desk }: { desk: BriefDesk }) {
  const { input, read, setReport } = desk;
  return (
    <Block>
      <label htmlFor="report">
        <Small as="span">Weather report</Small>
      </label>
      <textarea
        id="report"
        rows={2}
        spellCheck={false}
        placeholder="Paste it here, or enter the day below"
        maxLength={2000}
        value={input.report}
        onChange={(e) => setReport(e.target.value)}
      />
      <Notes aria-live="polite">
        {input.report.trim() !== '' &&
          read.notes.map((note) => (
            <li key={`${note.token} ${note.words}`} data-serious={note.serious || undefined}>
              {note.token !== null && <code>{note.token}</code>} {note.words}
            </li>
          ))}
      </Notes>
      <DayFields desk={desk} />
      <DayFigures desk={desk} />
    </Block>
  );
}

function DayFields({ desk: { input, brief, set, context } }: { desk: BriefDesk }) {
  const { wind } = input;
  const setWind = (change: Partial<typeof wind>): void => set({ wind: { ...wind, ...change } });
  return (
    <Two>
      <PlainField
        label="Wind"
        name="The wind’s direction"
        unit="° true"
        range={[0, 360]}
        value={wind.direction_deg}
        onChange={(direction_deg) => setWind({ direction_deg, from_deg: null, to_deg: null })}
      />
      <PlainField
        label="Nose"
        name="The heading"
        unit="° mag"
        range={[0, 360]}
        value={input.heading_deg}
        onChange={(heading_deg) => set({ heading_deg })}
      />
      <QuantityField
        label="Speed"
        name="The wind"
        kind="wind"
        range={[0, 150]}
        value={wind.speed_kt}
        onChange={(speed_kt) => setWind({ speed_kt })}
      />
      <QuantityField
        label="Gust"
        name="The gust"
        kind="wind"
        range={[wind.speed_kt ?? 0, 180]}
        value={wind.gust_kt}
        onChange={(gust_kt) => setWind({ gust_kt })}
      />
      <QuantityField
        label="Outside"
        name="The temperature"
        kind="temperature"
        range={[-60, 60]}
        value={input.oat_C}
        onChange={(oat_C) => set({ oat_C })}
      />
      <QuantityField
        label="Dew point"
        name="The dew point"
        kind="temperature"
        range={[-60, input.oat_C ?? 60]}
        value={input.dew_C}
        onChange={(dew_C) => set({ dew_C })}
      />
      <QuantityField
        label="Pressure"
        name="The pressure"
        kind="pressure"
        range={[850, 1100]}
        value={input.qnh_hPa}
        onChange={(qnh_hPa) => set({ qnh_hPa })}
      />
      <Computed>
        <span>Observed</span>
        {input.observedAt === null ? (
          <SlimButton onPress={() => set({ observedAt: context.now })}>Just now</SlimButton>
        ) : (
          <b data-words>
            {input.observedAt.slice(11, 16)} Z
            {brief.age_min !== null && brief.age_min >= 1 ? `, ${Math.round(brief.age_min)} min ago` : ''}
          </b>
        )}
      </Computed>
    </Two>
  );
}

/** What follows from the day. */
function DayFigures({ desk: { brief } }: { desk: BriefDesk }) {
  const { show } = useUnits();
  return (
    <Two>
      <Computed>
        <span>Pressure alt</span>
        <FigureText figure={brief.pressureAltitude_ft} show={(v) => show(v, 'height', 'ceil')} />
      </Computed>
      <Computed>
        <span>Density alt</span>
        <FigureText figure={brief.densityAltitude_ft} show={(v) => show(v, 'height', 'ceil')} />
      </Computed>
      <Computed>
        <span>Along</span>
        <FigureText
          figure={brief.components}
          show={(v) =>
            `${v.headwind_gust_kt < 0 ? 'tail' : 'head'} ${show(Math.abs(v.headwind_gust_kt), 'wind', 'ceil')}`
          }
        />
      </Computed>
      <Computed>
        <span>Across</span>
        <FigureText
          figure={brief.components}
          show={(v) =>
            Math.abs(v.crosswind_gust_kt) < 0.5
              ? 'none'
              : `${v.crosswind_gust_kt < 0 ? 'left' : 'right'} ${show(Math.abs(v.crosswind_gust_kt), 'wind', 'ceil')}`
          }
        />
      </Computed>
    </Two>
  );
}

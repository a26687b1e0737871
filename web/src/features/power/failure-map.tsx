import { isPiston, type TypeFile } from '@rouse/core/aircraft';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { SlimButton } from '../../ui/button.tsx';
import { Chart, type Ink } from '../../charts/chart.tsx';
import { Aid } from '../../ui/heading.ts';
import { useUnits } from '../../ui/units.ts';
import { type HeldMap, MAP_SIDE, TEMPERATURES_C, type WhatIf } from './board-figures.ts';
import { failureDrawing } from './failure-drawing.ts';
import { agreementOf, failureGrid, gridWeights_kg } from './failure-grid.ts';
import { useFlights } from './use-flights.ts';

const Box = styled.section`
  display: grid;
  grid-template-rows: auto minmax(16.25rem, 1fr);
  gap: 8px;
  min-height: 0;
`;

const Row = styled.div`
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
  progress {
    width: 10rem;
    accent-color: var(--now);
  }
`;

/** The weight that one engine holds by temperature, and every point of it flown on the simulator when asked. */
export function FailureMap({ type, what, held }: { type: TypeFile; what: WhatIf; held: HeldMap }) {
  const { units, show } = useUnits();
  const { flights, fly, stop } = useFlights();
  const [flownFor, setFlownFor] = useState(held);
  const { pa_ft, ratings: lines } = held;
  const [low_kg, high_kg] = gridWeights_kg(type.loading);
  const begin = (): void => {
    const { simulator } = type;
    if (!simulator || isPiston(simulator)) return;
    setFlownFor(held);
    fly(simulator, failureGrid(type.loading, pa_ft));
  };

  const draw = useMemo(
    () =>
      (ink: Ink): object =>
        failureDrawing(ink, {
          units,
          show,
          held,
          what,
          weights_kg: [low_kg, high_kg],
          flown: flownFor.pa_ft === pa_ft ? flights : null,
        }),
    [held, pa_ft, flownFor, flights, units, show, low_kg, high_kg, what],
  );
  const agreed = agreementOf(
    flights.holds,
    flights.points,
    flownFor.ratings.find((l) => l.hard)!,
  );
  return (
    <Box aria-label="One engine out, by weight and temperature">
      <Row>
        {flights.running ? (
          <SlimButton onPress={stop}>Stop</SlimButton>
        ) : (
          <SlimButton onPress={begin}>Fly {MAP_SIDE * MAP_SIDE} failures on the simulator</SlimButton>
        )}
        {flights.points.length > 0 && (
          <>
            <progress value={flights.done} max={flights.points.length} aria-label="Flown" />
            <Aid role="status" data-flown={flights.done}>
              {flights.done} of {flights.points.length} flown at {Math.round(flownFor.pa_ft)} ft
              {flights.took_s === null ? '' : ` in ${flights.took_s.toFixed(1)} s`}
              {agreed && flights.took_s !== null
                ? `; ${agreed.share.toFixed(1)} % as predicted, ${agreed.unsafe === 0 ? 'none fell where it was said to hold' : `${agreed.unsafe} fell where it was said to hold`}`
                : ''}
              . Dots held, crosses came down.
            </Aid>
          </>
        )}
      </Row>
      <Chart
        title="Weight held, out of ground effect"
        about="dotted continuous, dashed 2 min, solid 30 s"
        label="Weights that one engine holds on each rating by temperature, and flown failures"
        draw={draw}
        missing=""
        figures={{
          head: ['Outside', ...lines.map((c) => c.name)],
          rows: TEMPERATURES_C.map((t, k) => [
            show(t, 'temperature'),
            ...lines.map((c) => (Number.isNaN(c.kg[k]) ? 'not given' : show(c.kg[k]!, 'mass', 'floor'))),
          ]),
        }}
      />
    </Box>
  );
}

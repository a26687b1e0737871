import type { WatchedType } from '@rouse/core/aircraft';
import { type DrillView, itemsOfLesson, type Lesson } from '@rouse/core/drill';
import { useState } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { useSignDrillMutation } from '../../app/drill-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { Cockpit } from './cockpit.tsx';
import { DoneList } from './done-list.tsx';
import { DrillFrame, DrillHead, DrillMid, Side } from './drill-frame.tsx';
import { EnginePictures } from './engine-pictures.tsx';
import { MarksColumn } from './marks-column.tsx';
import { type DeskState, useDesk } from './use-desk.ts';
import { WAY_WORDS } from './words.ts';

const Weather = styled.form`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  label {
    display: grid;
    gap: 3px;
    font-size: 0.78125rem;
    color: var(--soft);
  }
  > button {
    grid-column: 1 / -1;
  }
`;

const Acts = styled.div`
  display: grid;
  gap: 6px;
  select,
  input {
    min-height: 3rem;
    width: 100%;
    padding: 4px 8px;
    border-radius: 8px;
    border: 1.5px solid var(--button-line);
    background: var(--button);
    color: var(--ink);
    font: inherit;
  }
`;

/** The desk of an instructor: the learner's cockpit, list, marks and room as they are now, and what can be done to them. */
export function Desk() {
  const { code = '' } = useParams();
  const desk = useDesk(code);
  const { type, lesson, view, over } = desk;
  return (
    <DrillFrame data-desk={over ? 'over' : desk.frozen ? 'frozen' : 'live'}>
      <title>Instructor · Drill · Rouse</title>
      <DrillHead>
        <h1>Drill</h1>
        <p>{whoAndWhat(desk)}</p>
        <p>{PREVAILS}</p>
      </DrillHead>
      <Side aria-label="Your desk" style={{ gridArea: 'left' }}>
        {!desk.connected && <p role="status">No such room, or not connected. Look at the code again: {code}</p>}
        {lesson && <Small>{WAY_WORDS[lesson.way]}</Small>}
        {type && !over && <Commands desk={desk} />}
        {over && <Sign desk={desk} />}
        <DoneList view={view} />
      </Side>
      <DrillMid>
        {type && lesson && <LearnersCockpit type={type} lesson={lesson} view={view} />}
        <EnginePictures told />
      </DrillMid>
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Side aria-label="Marks" tabIndex={0} style={{ gridArea: 'right' }}>
        {view && lesson && <MarksColumn lesson={lesson} marks={view.marks} begun_s={view.begun_s} over={over} />}
      </Side>
    </DrillFrame>
  );
}

function whoAndWhat({ learner, type, lesson }: DeskState): string {
  if (!learner) return 'Looking for the room…';
  const name = learner.here ? learner.name : `${learner.name}, not connected: the drill goes on there`;
  return type && lesson ? `${name} · ${type.name}, ${lesson.title}` : name;
}

/** The learner's cockpit as it stands, with what is to be done now. */
function LearnersCockpit({ type, lesson, view }: { type: WatchedType; lesson: Lesson; view: DrillView | null }) {
  const state = useAppSelector((s) => s.run.followed?.state);
  return (
    <Cockpit
      type={type}
      items={state ? itemsOfLesson({ type, lesson, state }) : []}
      view={view}
      last={null}
      shown={view?.present ?? null}
      disabled
      act={() => undefined}
      choose={() => undefined}
    />
  );
}

type DeskProps = { desk: ReturnType<typeof useDesk> };

/** What an instructor can do while it flies: arm a fault, freeze, take the list away, say something, end. */
function Commands({ desk: { type, frozen, send } }: DeskProps) {
  const faults = type!.standIn.filter((p) => p.faults.length > 0);
  const [fault, setFault] = useState(faults[0]?.id ?? '');
  const [note, setNote] = useState('');
  return (
    <Acts>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (note.trim() === '') return;
          send({ kind: 'note', text: note.trim() });
          setNote('');
        }}
      >
        <input aria-label="Say to the learner" placeholder="Slower with the grip." value={note} maxLength={300} onChange={(e) => setNote(e.target.value)} />
      </form>
      <select aria-label="Fault" value={fault} onChange={(e) => setFault(e.target.value)}>
        {faults.map((p) => (
          <option key={p.id} value={p.id}>
            {p.label}
          </option>
        ))}
      </select>
      <Button onPress={() => send({ kind: 'fault', condition: fault })} isDisabled={fault === ''}>
        Arm it, unannounced
      </Button>
      <WeatherSet send={send} />
      <Button onPress={() => send({ kind: 'freeze', on: !frozen })} aria-pressed={frozen}>
        {frozen ? 'Let it go on' : 'Freeze'}
      </Button>
      <Button onPress={() => send({ kind: 'list', shown: false })}>Take the list away</Button>
      <Button onPress={() => send({ kind: 'list', shown: true })}>Show the list</Button>
      <Button onPress={() => send({ kind: 'end' })}>End the drill</Button>
    </Acts>
  );
} // oxfmt-ignore

/** Air and wind from now on; what is left empty stays as it is. */
function WeatherSet({ send }: Pick<DeskState & ReturnType<typeof useDesk>, 'send'>) {
  const [air, setAir] = useState('');
  const [wind, setWind] = useState('');
  const read = (text: string): number | null => (text.trim() === '' ? null : Number(text));
  return (
    <Weather
      aria-label="Weather from now on"
      onSubmit={(e) => {
        e.preventDefault();
        send({ kind: 'weather', air_C: read(air), headwind_kt: read(wind) });
      }}
    >
      <label>
        Air, °C
        <input type="number" min={-40} max={50} value={air} onChange={(e) => setAir(e.target.value)} />
      </label>
      <label>
        Headwind, kt
        <input type="number" min={-40} max={60} value={wind} onChange={(e) => setWind(e.target.value)} />
      </label>
      <Button type="submit" isDisabled={air.trim() === '' && wind.trim() === ''}>
        Set the weather
      </Button>
    </Weather>
  );
}

/** A signature under the drill, once the server has it. */
function Sign({ desk }: DeskProps) {
  const { drill, said, send } = desk;
  const [sign, { data, error }] = useSignDrillMutation();
  const trouble = troubleIn(error);
  if (data) return <p data-signed={data.by}>Signed by {data.by}.</p>;
  return (
    <>
      <PrimaryButton
        isDisabled={drill === null}
        onPress={() => {
          sign({ drill: drill!, signature: { notes: said } })
            .unwrap()
            .then(() => send({ kind: 'signed' }))
            .catch(() => undefined);
        }}
      >
        Sign this drill
      </PrimaryButton>
      {drill === null && <Aid>It is being kept…</Aid>}
      {trouble !== null && <p role="alert">{trouble}</p>}
    </>
  );
}

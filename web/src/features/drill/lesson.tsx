import type { WatchedType } from '@rouse/core/aircraft';
import type { Lesson } from '@rouse/core/drill';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { PREVAILS } from '../../ui/heading.ts';
import { Cockpit } from './cockpit.tsx';
import { DoneList } from './done-list.tsx';
import { DrillFrame, DrillHead, DrillMid, Side } from './drill-frame.tsx';
import { EnginePictures } from './engine-pictures.tsx';
import { LessonButtons } from './lesson-buttons.tsx';
import { LessonCard } from './lesson-card.tsx';
import { MarksColumn } from './marks-column.tsx';
import { useLesson } from './use-lesson.ts';
import { WithYou } from './with-you.tsx';
import { WhatIfOfDrill } from './what-if-of-drill.tsx';
import { WaitsAtHand } from './waits-at-hand.tsx';

/** From the second hint on the item itself is told: it stands out in the cockpit, and the drawings are about it. */
const SHOWN_FROM = 2;

interface LessonViewProps {
  type: WatchedType;
  lesson: Lesson;
  /** sums of this lesson before, oldest first */
  before: readonly number[];
  leave: () => void;
}

/** A lesson as it is flown: what to do, the cockpit to do it in, what the engine says, and the marks. */
export function LessonView({ type, lesson, before, leave }: LessonViewProps) {
  const controls = useLesson(type, lesson);
  const { drill, told, items, act } = controls;
  const { view, stage, record } = drill;
  return (
    <DrillFrame data-drill={stage}>
      <title>{`${lesson.title} · Drill · Rouse`}</title>
      <DrillHead>
        <h1>Drill</h1>
        <p>{type.name}. On the simulator: nothing here enters an aircraft’s record.</p>
        <p>{PREVAILS}</p>
      </DrillHead>
      <Side aria-label="Lesson" style={{ gridArea: 'left' }}>
        <LessonCard type={type} lesson={lesson} controls={controls} />
        {drill.refused !== null && <p role="alert">{drill.refused}</p>}
        {stage === 'making-ready' && drill.refused === null && <p role="status">A simulated hand makes it ready…</p>}
        {stage === 'flying' && <LessonButtons lesson={lesson} controls={controls} />}
        {stage === 'over' && (
          <>
            <PrimaryButton onPress={drill.again} autoFocus>
              Once more
            </PrimaryButton>
            <Button onPress={leave}>Another lesson</Button>
            {controls.waits && <WaitsAtHand />}
            {controls.unkept !== null && <p role="alert">The marks could not be kept: {controls.unkept}</p>}
          </>
        )}
        <DoneList view={view} />
      </Side>
      <DrillMid>
        <Cockpit
          type={type}
          items={items}
          view={view}
          last={drill.last}
          shown={told >= SHOWN_FROM ? (view?.present ?? null) : null}
          disabled={stage !== 'flying' || drill.frozen}
          act={act}
          choose={controls.choose}
        />
        {record ? (
          <WhatIfOfDrill
            type={type}
            acts={record.acts}
            begun_s={view?.begun_s ?? 0}
            what={drill.what}
            ask={drill.askWhatIf}
          />
        ) : (
          <EnginePictures told={told >= SHOWN_FROM} />
        )}
      </DrillMid>
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Side aria-label="Marks" tabIndex={0} style={{ gridArea: 'right' }}>
        {view && (
          <MarksColumn
            lesson={lesson}
            marks={view.marks}
            begun_s={view.begun_s}
            over={stage === 'over'}
            before={before}
            drill={controls.drillKept}
          />
        )}
        <WithYou room={controls.room} />
      </Side>
    </DrillFrame>
  );
}

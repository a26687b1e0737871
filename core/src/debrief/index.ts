export { type Advice, type LegOfStory, type Moment, type Story, storyOf } from './story.ts';
export { type Verdict, verdictOfRun } from './verdict.ts';

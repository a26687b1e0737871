export { type Verdict, verdictOfRun } from './verdict.ts';

/** What a start is waiting for next, with its figure and its deadline. */
export interface Milestone {
  id: string;
  title: string;
  words: string;
  /** run clock by which it must have come, null when a speed decides */
  due_s: number | null;
  met: boolean;
}

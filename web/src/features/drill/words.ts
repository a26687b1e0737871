import type { Criterion, Lesson } from '@rouse/core/drill';

export const WAY_WORDS: Readonly<Record<Lesson['way'], string>> = {
  learn: 'Learn: the list is there',
  recall: 'Recall: no list',
  faults: 'Faults: something goes wrong',
  'abort-or-go': 'Abort or go',
  'one-engine': 'One engine out',
};

export const CRITERION_WORDS: Readonly<Record<Criterion | 'hints', string>> = {
  order: 'Order',
  complete: 'Nothing missed',
  controls: 'Right control',
  hand: 'Hand on the fuel',
  room: 'Room kept',
  reaction: 'Found and met',
  hints: 'Hints',
};

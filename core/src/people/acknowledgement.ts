/** What everybody acknowledges once, per operator and version. A change of what it means is another version. */
export const ACKNOWLEDGEMENT = {
  version: 1,
  words: [
    'Rouse is an aid. The approved flight manual, the rules of your operator and local rules come first, and what a licensed person decides stands.',
    'A figure that Rouse shows may be wrong or late, and what it does not know it says. Cautions are shown and never judged away.',
    'Simulated aircraft are for training. They say nothing of how a real one is today.',
  ],
} as const;

/** The one line that every page with figures, and every page of a report, carries. */
export const PREVAILS = 'An aid. The approved flight manual, local rules and licensed people come first.';

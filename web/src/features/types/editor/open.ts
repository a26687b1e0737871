/** What is open in the middle: a part, and where in it; what has changed since the version that flies, or a trial. */
export type Open = { file: string; line?: number | undefined } | 'changes' | 'trial';

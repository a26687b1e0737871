/** A spot in a text file, both counted from 1. */
export interface Place {
  file: string;
  line: number;
  column: number;
}

/** What is wrong with a written type, where, and what to do about it. */
export interface Problem extends Place {
  message: string;
  remedy: string;
}

/** The problem as one line: "procedure/start.yaml:12:5 there is no channel named ng.7; …". */
export function sayProblem({ file, line, column, message, remedy }: Problem): string {
  return `${file}:${line}:${column} ${message}; ${remedy}`;
}

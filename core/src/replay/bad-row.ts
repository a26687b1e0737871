/** Why a file cannot be read on, with the place. */
export class BadRow extends Error {
  /** line of the file, from 1 */
  readonly row: number;
  /** name of the column, empty when the whole row is meant */
  readonly column: string;
  constructor(row: number, column: string, message: string) {
    super(message);
    this.row = row;
    this.column = column;
  }
}

/** A field as text, for what is said of it. */
export function textOf(bytes: Uint8Array, from: number, to: number): string {
  let text = '';
  for (let i = from; i < Math.min(to, from + 80); i++) text += String.fromCharCode(bytes[i]!);
  return text.trim();
}

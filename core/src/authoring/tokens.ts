/** One word, number, sign or quoted name of a line of text. */
export interface Token {
  kind: 'word' | 'number' | 'sign' | 'quoted' | 'end';
  text: string;
  /** where it begins and ends in the line, from 0 */
  from: number;
  to: number;
}

/** What is wrong with one line of text, and where in it. */
export class LineError extends Error {
  override readonly name = 'LineError';
  readonly remedy: string;
  /** from 0 */
  readonly at: number;

  constructor(message: string, remedy: string, at: number) {
    super(message);
    this.remedy = remedy;
    this.at = at;
  }
}

const TOKENS =
  /\s*(?:(?<quoted>"[^"]*")|(?<number>[-−]?\d+(?:\.\d+)?)|(?<word>[A-Za-z°%Ω][\w.%°/²³-]*)|(?<sign>>=|<=|==|≥|≤|>|<|=|\(|\)|-|−|\+|,))/y;

const ALIASES: Readonly<Record<string, string>> = { '≥': '>=', '≤': '<=', '−': '-' };

/** Splits a line into tokens. @throws LineError at a sign that no line of a type has */
function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  TOKENS.lastIndex = 0;
  let end = 0;
  while (text.slice(end).trim() !== '') {
    TOKENS.lastIndex = end;
    const found = TOKENS.exec(text);
    if (!found) {
      const at = end + (text.slice(end).length - text.slice(end).trimStart().length);
      throw new LineError(`"${text[at]}" has no meaning here`, 'write it like: ng.1 >= 12 % and tot.1 < 150 °C', at);
    }
    end = TOKENS.lastIndex;
    const { quoted, number, word, sign } = found.groups!;
    const raw = (quoted ?? number ?? word ?? sign)!;
    const from = end - raw.length;
    if (quoted !== undefined) tokens.push({ kind: 'quoted', text: quoted.slice(1, -1), from, to: end });
    else if (number !== undefined) tokens.push({ kind: 'number', text: number.replace('−', '-'), from, to: end });
    else if (word !== undefined) tokens.push({ kind: 'word', text: word, from, to: end });
    else tokens.push({ kind: 'sign', text: ALIASES[raw] ?? raw, from, to: end });
  }
  tokens.push({ kind: 'end', text: '', from: text.trimEnd().length, to: text.length });
  return tokens;
}

/** Reads a line token by token. */
export class TokenReader {
  private at = 0;
  private readonly tokens: readonly Token[];

  /** @throws LineError */
  constructor(text: string) {
    this.tokens = tokensOf(text);
  }

  get next(): Token {
    return this.tokens[this.at]!;
  }

  take(): Token {
    const token = this.next;
    if (token.kind !== 'end') this.at++;
    return token;
  }

  /** Takes the word or sign when it comes next. */
  took(text: string): boolean {
    if (!this.is(text)) return false;
    this.at++;
    return true;
  }

  is(text: string): boolean {
    const { kind, text: now } = this.next;
    return (kind === 'word' || kind === 'sign') && now === text;
  }

  /** @throws LineError when something else comes */
  need(text: string, remedy: string): void {
    if (!this.took(text)) throw this.wrong(`"${text}" is missing`, remedy);
  }

  /** @throws LineError when no number comes */
  number(remedy: string): number {
    if (this.next.kind !== 'number')
      throw this.wrong(`a number belongs here${this.next.text ? `, not "${this.next.text}"` : ''}`, remedy);
    return Number(this.take().text);
  }

  /** @throws LineError when the line goes on */
  end(remedy: string): void {
    if (this.next.kind !== 'end') throw this.wrong(`"${this.next.text}" is one word too many`, remedy);
  }

  wrong(message: string, remedy: string): LineError {
    return new LineError(message, remedy, this.next.from);
  }
}

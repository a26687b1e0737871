/** What a browser that recognises speech gives of one utterance. Not in the types of the browser yet. */
interface Heard {
  readonly results: ArrayLike<ArrayLike<{ readonly transcript: string }> & { readonly isFinal: boolean }>;
  readonly resultIndex: number;
}

interface Recognition {
  lang: string;
  continuous: boolean;
  interimResults: boolean;
  processLocally: boolean;
  onresult: ((event: Heard) => void) | null;
  onend: (() => void) | null;
  onerror: ((event: { readonly error: string }) => void) | null;
  start(): void;
  abort(): void;
}

interface Recognitions {
  new (): Recognition;
  available?(asked: { langs: string[]; processLocally: boolean }): Promise<string>;
}

const LANGUAGE = 'en-GB';

const recognitions = (): Recognitions | undefined => (window as { SpeechRecognition?: Recognitions }).SpeechRecognition;

/** Whether this browser recognises speech on the device itself: what is said on a ramp goes to nobody. */
export async function hearsOnDevice(): Promise<boolean> {
  const available = recognitions()?.available?.({ langs: [LANGUAGE], processLocally: true });
  return (await available?.catch(() => 'unavailable')) === 'available';
}

/**
 * Listens for single words from now on. A word counts only when nothing else was said with it, so that talk beside the
 * list answers nothing.
 * @param words what is listened for, lower case
 * @returns how to stop listening
 */
export function listenFor<Word extends string>(words: readonly Word[], heard: (word: Word) => void): () => void {
  const Found = recognitions();
  if (!Found) return () => undefined;
  const recognition = new Found();
  let over = false;
  Object.assign(recognition, { lang: LANGUAGE, continuous: true, interimResults: false, processLocally: true });
  recognition.onresult = ({ results, resultIndex }) => {
    for (const result of Array.from(results).slice(resultIndex)) {
      const said = result[0]?.transcript.trim().toLowerCase().replace(/[.!]$/, '');
      const word = result.isFinal ? words.find((w) => w === said) : undefined;
      if (word !== undefined) heard(word);
    }
  };
  // silence is no end; a microphone that may not be used, or whatever else fails, is not asked for again and again
  recognition.onerror = ({ error }) => {
    if (error !== 'no-speech') over = true;
  };
  recognition.onend = () => {
    if (!over) recognition.start();
  };
  recognition.start();
  return () => {
    over = true;
    recognition.abort();
  };
}

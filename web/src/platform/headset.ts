/** A second of silence: the button of a headset reaches only a page that plays something. */
const SILENCE = silence();

/** The button of a headset does something from now on. @returns how to let it go */
export function onHeadsetButton(pressed: () => void): () => void {
  if (!('mediaSession' in navigator)) return () => undefined;
  const url = URL.createObjectURL(SILENCE);
  const player = new Audio(url);
  player.loop = true;
  // without a touch of the page before it, it may not play: then the button does what it always does
  void player.play().catch(() => undefined);
  const act = (): void => {
    // a headset's button pauses what is played, and would be dead after it
    void player.play().catch(() => undefined);
    pressed();
  };
  navigator.mediaSession.setActionHandler('play', act);
  navigator.mediaSession.setActionHandler('pause', act);
  return () => {
    navigator.mediaSession.setActionHandler('play', null);
    navigator.mediaSession.setActionHandler('pause', null);
    player.pause();
    URL.revokeObjectURL(url);
  };
}

/** Eight thousand samples of nothing, as a WAV file. */
function silence(): Blob {
  const SAMPLES = 8000;
  const head = new DataView(new ArrayBuffer(44));
  const put = (at: number, text: string): void => {
    for (let i = 0; i < text.length; i++) head.setUint8(at + i, text.charCodeAt(i));
  };
  put(0, 'RIFF');
  head.setUint32(4, 36 + SAMPLES, true);
  put(8, 'WAVEfmt ');
  head.setUint32(16, 16, true);
  head.setUint16(20, 1, true);
  head.setUint16(22, 1, true);
  head.setUint32(24, SAMPLES, true);
  head.setUint32(28, SAMPLES, true);
  head.setUint16(32, 1, true);
  head.setUint16(34, 8, true);
  put(36, 'data');
  head.setUint32(40, SAMPLES, true);
  return new Blob([head, new Uint8Array(SAMPLES).fill(128)], { type: 'audio/wav' });
}

/** Speaks a sentence; a warning cuts off what is being said. Without a voice nothing happens: the tone has sounded. */
export function speak(text: string, urgent: boolean): void {
  if (!('speechSynthesis' in window)) return;
  if (urgent) window.speechSynthesis.cancel();
  const utterance = new SpeechSynthesisUtterance(text);
  utterance.rate = 1.1;
  utterance.lang = 'en-GB';
  window.speechSynthesis.speak(utterance);
}

export function stopSpeaking(): void {
  if ('speechSynthesis' in window) window.speechSynthesis.cancel();
}

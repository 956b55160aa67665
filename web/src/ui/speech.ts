/** The browser's own voice, with one switch for this device, off until somebody wants it. */
import { useEffect } from 'react';

const KEY = 'penny.aloud';

/** Whether this browser can speak at all. */
export const canSpeak = () => 'speechSynthesis' in window && 'SpeechSynthesisUtterance' in window;
export const isReadAloud = () => localStorage.getItem(KEY) === 'on';
export const setReadAloud = (on: boolean) => {
  localStorage.setItem(KEY, on ? 'on' : 'off');
  if (!on && canSpeak()) window.speechSynthesis.cancel();
};

/** What is said now takes the place of what was being said: an old instruction is worse than none. */
export function say(text: string) {
  if (!text || !isReadAloud() || !canSpeak()) return;
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

/** Say a text once, whenever it becomes another. */
export function useReadAloud(text: string) {
  useEffect(() => say(text), [text]);
  useEffect(() => () => (canSpeak() ? window.speechSynthesis.cancel() : undefined), []);
}

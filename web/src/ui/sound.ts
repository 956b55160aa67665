/** A tone and a short vibration when something is due, with one switch for this device. */

const KEY = 'penny.sound';
const LASTS_S = 0.18;
/** Each brew on the bench has a pitch of its own, Hz. */
const PITCHES = [740, 988, 587, 1175, 494, 880];

export const soundIsOn = () => localStorage.getItem(KEY) !== 'off';
export const setSound = (on: boolean) => localStorage.setItem(KEY, on ? 'on' : 'off');

export const pitchOf = (which: number) => PITCHES[((which % PITCHES.length) + PITCHES.length) % PITCHES.length]!;

/** Silence where sound is not allowed, or switched off. */
export function call(which = 0) {
  if (!soundIsOn()) return;
  if (navigator.userActivation?.hasBeenActive) navigator.vibrate?.(180); // a page nobody touched may not
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    const level = audio.createGain();
    tone.frequency.value = pitchOf(which);
    level.gain.value = 0.12;
    tone.connect(level).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + LASTS_S);
    tone.onended = () => void audio.close();
  } catch {
    // no sound on this device
  }
}

import { isOn, type Moment, patterns } from '#core/signals/signals.ts';

/** How long a pattern is heard, s. */
const HEARD_S = 4;
const QUIET = 0.06;
const STEP_S = 0.02;

let playing: AudioContext | null = null;

/** Lets a pattern be heard as the buzzer would give it. @returns why it cannot be, as a sentence; null where it is heard */
export function hear(moment: Moment): string | null {
  const { sound } = patterns[moment];
  void playing?.close().catch(() => {});
  playing = null;
  if (!sound) return null;
  if (typeof AudioContext === 'undefined') return 'This browser gives no sound.';
  try {
    const audio = new AudioContext();
    playing = audio;
    const buzzer = audio.createOscillator();
    const loud = audio.createGain();
    buzzer.type = 'square';
    buzzer.frequency.value = sound.hz;
    loud.gain.value = 0;
    for (let s = 0; s < HEARD_S; s += STEP_S)
      loud.gain.setValueAtTime(isOn(sound.rhythm, s) ? QUIET : 0, audio.currentTime + s);
    buzzer.connect(loud).connect(audio.destination);
    buzzer.start();
    buzzer.stop(audio.currentTime + HEARD_S);
    buzzer.onended = () => void audio.close().catch(() => {});
    return null;
  } catch {
    return 'This device gives no sound now.';
  }
}

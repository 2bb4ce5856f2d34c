/**
 * What a run tells without being looked at: tones, vibration and, where wanted, speech. The
 * browser's own means alone.
 */

export type Cue = 'next' | 'stop' | 'over';
const KEPT = 'orthotorq-cues';
/** Tones of each cue: pitch in hertz, length in seconds. */
const TONES: Record<Cue, [number, number][]> = {
  next: [[880, 0.07]],
  stop: [
    [220, 0.25],
    [196, 0.35],
  ],
  over: [
    [660, 0.12],
    [880, 0.12],
    [1100, 0.2],
  ],
};
const BUZZ: Record<Cue, number[]> = {
  next: [40],
  stop: [300, 120, 300],
  over: [120, 80, 120, 80, 300],
};

class Cues {
  sound = $state(false);
  speech = $state(false);
  private audio: AudioContext | undefined;

  constructor() {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as {
      sound?: boolean;
      speech?: boolean;
    };
    this.sound = kept.sound ?? false;
    this.speech = kept.speech ?? false;
  }

  /** Switch tones or speech; from a tap, as browsers want it. */
  toggle(which: 'sound' | 'speech'): void {
    this[which] = !this[which];
    localStorage.setItem(KEPT, JSON.stringify({ sound: this.sound, speech: this.speech }));
    this.give('next', which === 'speech' ? 'Speech is on' : '');
  }

  /**
   * Give a cue, with the words for those who want to hear them; `heard` when its tone was set
   * before.
   */
  give(cue: Cue, words: string, heard = false): void {
    if (this.sound) {
      navigator.vibrate?.(BUZZ[cue]);
      if (!heard) this.tone(TONES[cue]);
    }
    if (this.speech && words && 'speechSynthesis' in window) {
      speechSynthesis.cancel();
      speechSynthesis.speak(new SpeechSynthesisUtterance(words));
    }
  }

  /** Call when a wait is over, also when the screen is dark and timers sleep: the sound itself waits. Gives back what
   * calls it off. */
  later(seconds: number): () => void {
    if (!this.sound || seconds <= 0) return () => undefined;
    const waves = this.tone(TONES.over, seconds);
    return () => waves.forEach((wave) => wave.disconnect());
  }

  private tone(tones: [number, number][], wait = 0): OscillatorNode[] {
    this.audio ??= new AudioContext();
    let at = this.audio.currentTime + wait;
    const waves: OscillatorNode[] = [];
    for (const [pitch, length] of tones) {
      const [wave, volume] = [this.audio.createOscillator(), this.audio.createGain()];
      wave.frequency.value = pitch;
      volume.gain.value = 0;
      volume.gain.setValueAtTime(0.4, at);
      volume.gain.setTargetAtTime(0, at + length * 0.7, 0.02);
      wave.connect(volume).connect(this.audio.destination);
      wave.start(at);
      wave.stop(at + length + 0.1);
      at += length + 0.05;
      waves.push(wave);
    }
    return waves;
  }
}

export const cues = new Cues();

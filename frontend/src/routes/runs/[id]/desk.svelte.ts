/**
 * What happens at the Run screen: which dialog is open, what a key does, how the bolts look with
 * what is not sent yet.
 */
import { untrack } from 'svelte';
import { cues } from '#lib/cues.svelte.ts';
import type { Key } from '#lib/keys.ts';
import type { Run } from '#lib/run.svelte.ts';
import { sentence } from '#lib/sentence.ts';
import { Meter } from './meter.svelte.ts';

export type Dialog =
  '' | 'problem' | 'wrench' | 'note' | 'suggest' | 'correct' | 'round' | 'more' | 'device' | 'hand';
/** Keys of a remote that goes on, and that goes back. */
const ON = ['space', 'Enter', 'PageDown', 'ArrowRight'];
const BACK = ['PageUp', 'ArrowLeft'];
/** What is shown must have been seen before it is answered. */
const GUARD_MS = 250;
/** Two taps on one button so soon after each other are one: a remote, or a shaking hand. */
const TWICE_MS = 400;

export class Desk {
  dialog = $state<Dialog>('');
  /** The reading as it is typed. */
  reading = $state('');
  /** What the plan asks to be recorded with the answer, as typed. */
  recorded = $state<Record<string, string>>({});
  /** Seconds since 1970, for what has to be waited for. */
  now = $state(Date.now() / 1000);
  /** The position at which somebody has said to be. */
  private arrived = $state('');
  private shownAt = 0;
  private last = { answer: '', at: -Infinity };

  /** The measuring device at hand. */
  readonly meter: Meter;

  constructor(readonly run: Run) {
    this.meter = new Meter(
      run,
      (answer, more) => this.answer(answer, more),
      (value) => (this.reading = value),
    );
    // a string, so that the answer of the server about the step already shown neither locks it nor
    // empties a reading
    const shown = $derived(`${run.step?.step}#${run.step?.attempt}`);
    $effect(() => {
      void shown;
      this.shownAt = performance.now();
      this.reading = '';
      this.recorded = {};
    });
    const told = $derived(
      run.stopped.length
        ? 'stop'
        : run.step?.entry === 'decision'
          ? 'stop'
          : run.step
            ? 'next'
            : '',
    );
    $effect(() => {
      void shown;
      if (told) untrack(() => cues.give(told, this.spoken()));
    });
    // a wait that ends calls, whoever looks; its tone is set when it begins, for a screen that goes
    // dark meanwhile
    const ready = $derived(run.step?.ready_at ?? 0);
    let heard = false;
    $effect(() => {
      const left = ready - Date.now() / 1000;
      heard = cues.sound && left > 0;
      return cues.later(left);
    });
    const over = $derived(!!run.step?.ready_at && this.wait === 0);
    $effect(() => {
      if (over) untrack(() => cues.give('over', 'The wait is over', heard));
    });
    $effect(() => {
      const ticking = setInterval(() => (this.now = Date.now() / 1000), 1000);
      return () => clearInterval(ticking);
    });
  }

  /** The instruction in a few words, for those who hear it. */
  private spoken(): string {
    const { step, stopped } = this.run;
    if (stopped[0]) return `Stopped. ${stopped[0].text}`;
    if (!step) return '';
    if (this.goTo) return step.go_to ?? '';
    const bolt = step.label ? `Bolt ${step.label.replace(' + ', ' and ')}. ` : '';
    const figure =
      step.shows === 'setting' && step.changed_setting && step.settings[0]
        ? `Set ${step.settings[0].text}. `
        : '';
    return step.label && step.index > 1 && step.entry === 'buttons'
      ? bolt
      : `${bolt}${figure}${step.text}`;
  }

  readonly looks = $derived.by(() => {
    const out = Object.fromEntries((this.run.state?.bolts ?? []).map((b) => [b.place, b]));
    // what is answered here and not sent yet looks as it will
    for (const event of this.run.unsent)
      for (const place of event.leaves ? event.places : [])
        if (out[place])
          out[place] = {
            ...out[place],
            ...(event.leaves as { state: (typeof out)[string]['state']; percent: number }),
          };
    return out;
  });

  /** Seconds to wait before the usual answer can be given. */
  readonly wait = $derived.by(() =>
    this.run.step?.ready_at ? Math.max(0, this.run.step.ready_at - this.now) : 0,
  );

  /** Whether another position has to be gone to before anything is answered there. */
  readonly goTo = $derived.by(() => {
    const step = this.run.step;
    return !!step?.go_to && this.run.may('answer') && this.arrived !== step.position;
  });

  /** Somebody is there. */
  there = (): void => {
    const now = performance.now();
    if (now - this.shownAt < GUARD_MS || now - this.last.at < TWICE_MS) return;
    this.arrived = this.run.step?.position ?? '';
    // the answers come into view now: they must have been seen, too
    this.shownAt = now;
    this.last = { answer: '', at: now };
  };

  readonly keys = $derived.by((): Key[] => {
    const { run } = this;
    const step = run.step;
    if (this.dialog || !step || !run.may('answer')) return [];
    const problem = {
      key: 'w',
      words: 'a problem to report',
      run: () => (this.dialog = 'problem'),
    };
    const more = {
      key: 't',
      words: 'note, photo, skip, repeat',
      run: () => (this.dialog = 'more'),
    };
    if (this.goTo)
      return [
        ...ON.map((key) => ({
          key,
          words: sentence('run.i_am_at', { position: step.position }),
          run: this.there,
        })),
        problem,
        more,
      ];
    const plain = step.buttons.filter((b) => !b.reason);
    const usual = plain[0]?.label ?? '';
    const out: Key[] = plain
      .filter((b) => b.key && !['enter', 'space'].includes(b.key))
      .map((b) => ({ key: b.key, words: b.label, run: () => void this.answer(b.answer) }));
    for (const key of ON)
      out.push({ key, words: key === 'space' ? usual : `${usual} (remote)`, run: this.primary });
    for (const back of plain.filter((b) => b.back))
      for (const key of BACK)
        out.push({
          key,
          words: `${back.label} (remote)`,
          run: () => void this.answer(back.answer),
        });
    out.push(problem);
    if (run.may('correct'))
      out.push({
        key: 'c',
        words: 'correct the last answer',
        run: () => (this.dialog = 'correct'),
      });
    if (step.ahead.length)
      out.push({ key: 'a', words: 'the whole round at once', run: () => (this.dialog = 'round') });
    out.push(more);
    return out;
  });

  /**
   * What was typed of what the plan asks for; nothing is recorded with an answer that is not good.
   */
  private given(answer: string): Record<string, string> {
    const usual = this.run.step?.buttons[0]?.answer === answer;
    return usual
      ? Object.fromEntries(Object.entries(this.recorded).filter(([, text]) => text.trim()))
      : {};
  }

  /** Whether everything that the plan asks for was given. */
  readonly complete = $derived.by(() =>
    (this.run.step?.asks ?? []).every(
      (what) => what !== 'photo' && (this.recorded[what] ?? '').trim(),
    ),
  );

  answer = async (answer: string, more: Record<string, unknown> = {}): Promise<void> => {
    const step = this.run.step;
    const now = performance.now();
    if (!step || this.goTo || this.run.busy || now - this.shownAt < GUARD_MS) return;
    if (this.last.answer === answer && now - this.last.at < TWICE_MS) return;
    this.last = { answer, at: now };
    await this.run.send('answer', step.step, {
      answer,
      ...this.given(answer),
      ...this.meter.with(step.step),
      ...more,
    });
  };

  /** What the large button does, by key. */
  primary = (): void => {
    const step = this.run.step;
    const button = step?.buttons[0];
    // with a wrench at hand the large key pulls it
    if (button && !this.dialog && this.meter.fits && this.meter.connected?.answers === 'pull')
      return void this.meter.measure();
    if (!button || this.dialog || this.wait > 0 || !this.complete) return;
    if (step.entry === 'reading') document.querySelector<HTMLInputElement>('#reading')?.focus();
    else if (step.entry === 'buttons') void this.answer(button.answer);
  };

  /** Time that is left until a moment, in words. */
  left = (until: number): string => {
    const seconds = Math.max(0, until - this.now);
    return seconds >= 90 ? `${Math.ceil(seconds / 60)} min` : `${Math.ceil(seconds)} s`;
  };
}

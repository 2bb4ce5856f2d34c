/** Walking on inside a round without the server: along `ahead`, by no rule of its own. */
import type { Schemas } from '../api/client';
import type { OutEvent } from './outbox';

export type Step = Schemas['Instruction'];

/** The step after one, when it is known: the same instruction at the next bolt. */
export function next(step: Step): Step | null {
  const [first, ...rest] = step.ahead;
  if (!first) return null;
  return {
    ...step,
    step: first.step,
    places: first.places,
    label: first.label,
    index: step.index + 1,
    attempt: 1,
    ahead: rest,
    upcoming: rest.slice(0, 2).map((a) => a.label),
    changed_setting: false,
  };
}

/** First steps of rounds that were sent along, by the step that they come after. */
export type Later = Record<string, Step>;

/**
 * The step to show past events that the server has not answered; null where only the server knows
 * what comes.
 */
export function walkOn(
  step: Step | null,
  unsent: Pick<OutEvent, 'kind' | 'step' | 'payload'>[],
  later: Later = {},
): Step | null {
  let now = step;
  for (const event of unsent) {
    // a problem that is not sent yet stops here as it will there, whatever it is about
    if (event.kind === 'problem' && event.payload.about !== 'other') return null;
    if (!now || event.kind !== 'answer' || event.step !== now.step) continue;
    // what a device measured is judged by the server before anybody goes on
    if (event.payload.pull) return null;
    const given = now.buttons.find((b) => b.answer === event.payload.answer);
    now = given?.follows ? (next(now) ?? later[now.step] ?? null) : null;
    if (now === null) return null;
  }
  return now;
}

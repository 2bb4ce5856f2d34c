/** Walking on inside a round while the server is away. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { next, walkOn, type Step } from '../src/lib/offline/walk.ts';

function step(label: number, ahead: number[]): Step {
  const at = (n: number) => ({
    step: `L/close/full/1/b.${n}`,
    label: String(n),
    places: [`b.${n}`],
  });
  const buttons = [
    { answer: 'turned', follows: true },
    { answer: 'did_not_turn', follows: true },
    { answer: 'not_sure', follows: false },
  ];
  const whole = {
    ...at(label),
    index: label,
    attempt: 2,
    changed_setting: true,
    upcoming: [],
    buttons,
    ahead: ahead.map(at),
  };
  return whole as unknown as Step;
}
const answer = (n: number, word: string, kind = 'answer') => ({
  kind,
  step: `L/close/full/1/b.${n}`,
  payload: { answer: word },
});

test('the next bolt of the round follows a plain answer', () => {
  const walked = walkOn(step(1, [2, 3, 4]), [answer(1, 'turned'), answer(2, 'did_not_turn')])!;
  assert.deepEqual(
    [walked.label, walked.index, walked.attempt, walked.changed_setting, walked.upcoming],
    ['3', 3, 1, false, ['4']],
  );
  assert.deepEqual(
    walked.ahead.map((a) => a.label),
    ['4'],
  );
  assert.deepEqual(next(step(1, [2, 3, 4, 5, 6]))!.upcoming, ['3', '4']);
});

test('past the round, and after an answer that needs judging, only the server knows', () => {
  assert.equal(walkOn(step(1, [2]), [answer(1, 'turned'), answer(2, 'turned')]), null);
  // a round that was sent along goes on, whatever was answered; what was measured waits for the
  // server
  const later = { [step(2, []).step]: { ...step(7, [8]), pass_name: 'next' } };
  const on = walkOn(
    step(1, [2]),
    [answer(1, 'did_not_turn'), answer(2, 'turned'), answer(7, 'turned')],
    later,
  )!;
  assert.deepEqual([on.step, on.pass_name], [step(8, []).step, 'next']);
  assert.equal(
    walkOn(
      step(1, [2]),
      [{ ...answer(1, 'turned'), payload: { answer: 'turned', pull: 'p' } }],
      later,
    ),
    null,
  );
  assert.equal(walkOn(step(1, [2, 3]), [answer(1, 'not_sure'), answer(2, 'turned')]), null);
  assert.equal(walkOn(step(1, [2, 3]), [answer(1, 'refuses')]), null);
  assert.equal(next(step(1, [])), null);
});

test('notes, and answers to other steps, move nothing', () => {
  const here = step(1, [2]);
  assert.equal(walkOn(here, [answer(1, 'x', 'note'), answer(7, 'turned')]), here);
  assert.equal(walkOn(null, [answer(1, 'turned')]), null);
});

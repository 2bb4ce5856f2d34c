/**
 * The Bench's own functions: steps of the tape, and what is typed as it is written into the
 * document.
 */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { asNumber, listOf, textOf, write, written } from '../src/lib/plan.ts';
import {
  groupsIn,
  looksAt,
  stepsOf,
  wayOf,
  type PassSteps,
} from '../src/routes/plans/[id]/steps.ts';

const pass = (id: string, leaves: object | null, order: string[][]) => ({
  id,
  name: id,
  group: 'b',
  leaves,
  order,
});
const both = [['b.1'], ['b.2']];
const result = {
  groups: [
    { id: 'b', variants: ['eight'] },
    { id: 'six', variants: ['six'] },
  ],
  variants: [
    { id: 'eight', choice: 'clamp' },
    { id: 'six', choice: 'clamp' },
  ],
  stages: [
    { id: 'safe', occasions: ['install'], passes: [] },
    {
      id: 'close',
      occasions: ['install'],
      passes: [
        pass('hand', { state: 'hand', percent: 0 }, both),
        pass('half', { state: 'part', percent: 50 }, both),
        pass('pause', null, []),
        pass('full', { state: 'full', percent: 100 }, both),
      ],
    },
    {
      id: 'round',
      occasions: ['install'],
      only_again: true,
      passes: [pass('more', { state: 'full', percent: 100 }, both)],
    },
    {
      id: 'other',
      occasions: ['install'],
      passes: [{ ...pass('o', { state: 'full', percent: 100 }, [['six.1']]), variants: ['six'] }],
    },
    {
      id: 'again',
      occasions: ['recheck'],
      passes: [pass('c', { state: 'checked', percent: 100 }, [['b.1']])],
    },
  ],
} as unknown as Parameters<typeof stepsOf>[0];

test('the tape holds the passes of its occasion alone, in order, and none that turns nothing', () => {
  const names = (steps: PassSteps[]) => steps.map((s) => `${s.stage}/${s.pass.id}`);
  assert.deepEqual(names(stepsOf(result, 'install')), ['close/hand', 'close/half', 'close/full']);
  assert.deepEqual(names(stepsOf(result, 'recheck')), ['again/c']);
  assert.deepEqual(names(stepsOf(result, 'install', ['six'])).at(-1), 'other/o');
});

test('after each step the bolts stand as the server says their pass leaves them', () => {
  const steps = stepsOf(result, 'install');
  assert.deepEqual(looksAt(steps, 0).looks, { 'b.1': { state: 'hand', percent: 0 } });
  const third = looksAt(steps, 2);
  assert.deepEqual(third.looks, {
    'b.1': { state: 'part', percent: 50 },
    'b.2': { state: 'hand', percent: 0 },
  });
  assert.deepEqual([third.next, steps[third.index]?.pass.id], [['b.1'], 'half']);
  const end = looksAt(steps, null);
  assert.deepEqual(
    [end.looks['b.2'], end.next, end.index],
    [{ state: 'full', percent: 100 }, [], -1],
  );
});

test('one way of a plan is drawn: the first, or that of the bolts that are looked at', () => {
  assert.deepEqual([wayOf(result, ''), wayOf(result, 'six')], [['eight'], ['six']]);
  assert.deepEqual(
    groupsIn(result, ['six']).map((g) => g.id),
    ['six'],
  );
});

test('what is typed is written as typed; only a figure becomes one', () => {
  assert.deepEqual(
    [asNumber('16'), asNumber('0.5'), asNumber('many'), asNumber('1,5')],
    [16, 0.5, 'many', '1,5'],
  );
  assert.deepEqual(listOf('left, ,right'), ['left', 'right']);
});

test('shares, percent, bands and ratios are shown in one way, and what was typed as typed', () => {
  assert.deepEqual(
    [written(0.625, 'share'), written('most', 'share'), written(undefined, 'share')],
    ['62.5 %', 'most', ''],
  );
  assert.deepEqual(
    [written(70, 'percent'), written(3.5, 'ratio'), written('3:1', 'ratio')],
    ['70 %', '3.5:1', '3:1'],
  );
  assert.deepEqual(
    [written([0.1, 0.12, 0.14], 'band'), written([0.87, 0.9, 0.93], 'shares')],
    ['0.1 – 0.12 – 0.14', '87 – 90 – 93 %'],
  );
});

test('a field that is emptied is not given', () => {
  const part = { amount: 'thin film', at: ['24 h'] };
  write(part, 'amount', '');
  write(part, 'at', []);
  assert.deepEqual(part, {});
  write(part, 'in', ['install', 'recheck']);
  assert.equal(textOf(part, 'in'), 'install, recheck');
  assert.equal(textOf(part, 'nothing'), '');
});

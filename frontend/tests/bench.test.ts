/** The Bench's own functions: steps of the tape, telling lines and marks of the sections. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { layoutWords, passWord, sectionsOf } from '../src/routes/plans/[id]/sections.ts';
import { looksAt, stepsOf } from '../src/routes/plans/[id]/steps.ts';

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- a cut-down result, as much as the functions read
const result: any = {
  groups: [
    {
      id: 'b',
      places: [{ id: 'b.1' }, { id: 'b.2' }],
      target: { set_torque_Nm: 450, angle_deg: null, why: 'manual 7.4' },
      preload: { typical_N: 128_000 },
    },
  ],
  stages: [
    { id: 'safe', occasions: ['install'], passes: [] },
    {
      id: 'close',
      occasions: ['install'],
      passes: [
        { id: 'hand', name: 'By hand', do: 'hand', percent: null, order: [['b.1'], ['b.2']], settings: [] },
        { id: 'half', name: '50 %', do: 'torque', percent: 50, order: [['b.1'], ['b.2']], settings: [{ text: '225 N·m' }] },
        { id: 'full', name: '100 %', do: 'torque', percent: 100, order: [['b.1'], ['b.2']], settings: [{ text: '450 N·m' }] },
      ],
    },
    {
      id: 'again',
      occasions: ['recheck'],
      passes: [{ id: 'c', name: 'Recheck', do: 'torque', percent: 100, order: [['b.1']], settings: [] }],
    },
  ],
  rechecks: [{ at: [24], every: 2000, meter: 'h' }],
  findings: [
    { code: 'hand_force', severity: 'caution', where: 'stages/1' },
    { code: 'may_exceed_share', severity: 'caution', where: 'groups/b' },
  ],
};
const doc = {
  groups: [{ id: 'b', name: 'Studs', layout: { kind: 'circle', count: 2, diameter: '100 mm' }, fastener: { thread: 'M24' } }],
  positions: [
    { id: 'L', name: 'left' },
    { id: 'R', name: 'right' },
  ],
  tools: { w: { kind: 'click wrench', name: 'TW-07', range: ['100 N·m', '600 N·m'] } },
  stages: [
    { id: 'safe', kind: 'prepare', items: [{ id: 'a', text: 'x' }], cautions: ['lockout'] },
    {
      id: 'close',
      kind: 'tighten',
      condition: ['cold'],
      passes: [{ do: 'hand' }, { do: 'torque', percent: 50 }, { do: 'torque', percent: 100, check: true }],
    },
    { id: 'again', kind: 'tighten', in: ['recheck'], condition: ['cold'], passes: [] },
  ],
};

test('the tape holds the install passes alone, in order', () => {
  assert.deepEqual(
    stepsOf(result).map((s) => [s.pass.id, s.band.total, s.band.percent]),
    [
      ['hand', 2, 0],
      ['half', 2, 50],
      ['full', 2, 100],
    ],
  );
});

test('after each step the bolts stand as they were tightened', () => {
  const steps = stepsOf(result);
  assert.deepEqual(looksAt(steps, 0).looks, { 'b.1': { state: 'hand', percent: 0 } });
  const third = looksAt(steps, 2);
  assert.deepEqual(third.looks['b.1'], { state: 'part', percent: 50 });
  assert.deepEqual(third.looks['b.2'], { state: 'hand', percent: 0 });
  assert.deepEqual(third.next, ['b.1']);
  const end = looksAt(steps, null);
  assert.deepEqual(
    Object.values(end.looks).map((l) => l.state),
    ['full', 'full'],
  );
  assert.deepEqual(end.next, []);
});

test('sections stand in work order with tools before the first tightening', () => {
  const sections = sectionsOf(doc, result, {});
  assert.deepEqual(
    sections.map((s) => s.kind),
    ['joint', 'figure', 'stage', 'tools', 'stage', 'stage', 'back'],
  );
  assert.equal(sections[0]!.line, '2 × M24 on Ø 100 mm, 2 positions');
  assert.match(sections[1]!.line, /450 N·m, manual 7\.4; 128 kN/);
  assert.equal(sections[2]!.line, '1 item, 1 caution');
  assert.equal(sections[4]!.line, 'hand, 50, 100 check → 450 N·m · cold');
});

test('work that comes back is one line at the end', () => {
  assert.equal(sectionsOf(doc, result, {}).at(-1)!.line, 'at 24 h, then every 2000 h');
  assert.equal(sectionsOf(doc, { ...result, rechecks: [] }, {}).at(-1)!.line, 'no recheck planned');
});

test('layouts and passes in a word', () => {
  assert.equal(
    layoutWords({ kind: 'grid', rows: 3, columns: 4, perimeter: true }, 10, 'M8'),
    '10 × M8 in 3 rows of 4, edge only',
  );
  assert.equal(layoutWords({ kind: 'row', count: 5, pitch: '60 mm' }, 5, 'M12'), '5 × M12 in a row, 60 mm apart');
  assert.deepEqual(
    [
      { do: 'torque', percent: 100, repeat: {} },
      { do: 'angle', turn: '60°' },
      { do: 'wait', for: '30 min' },
    ].map(passWord),
    ['100 repeat', 'angle 60°', 'wait 30 min'],
  );
});

test('a finding marks its section, an error marks it as a stop', () => {
  const marks = (errors: Record<string, string>) =>
    Object.fromEntries(sectionsOf(doc, result, errors).map((s) => [s.key, s.mark]));
  assert.deepEqual(marks({}), {
    'joint-0': 'good',
    'figure-0': 'caution',
    'stage-safe': 'good',
    'tool-w': 'caution',
    'stage-close': 'good',
    'stage-again': 'good',
    back: 'good',
  });
  assert.equal(marks({ 'groups/0/layout/count': 'x' })['joint-0'], 'stop');
  assert.equal(marks({ 'targets/b/torque': 'x' })['figure-0'], 'stop');
  assert.equal(marks({ 'tools/w/range': 'x' })['tool-w'], 'stop');
  assert.equal(marks({ 'stages/1/passes/0/percent': 'x' })['stage-close'], 'stop');
});

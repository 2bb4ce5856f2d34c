import assert from 'node:assert/strict';
import { test } from 'node:test';
import { fresh, move, newStage, STAGE_KINDS, toggled } from '../src/routes/plans/[id]/stages.ts';

const plan = () => ({
  groups: [
    { id: 'inner', friction: { lubricant: 'moly-paste' } },
    { id: 'outer', friction: { lubricant: 'light-oil' } },
  ],
  chains: { main: ['w'], small: ['v'] },
  stages: [
    { id: 'pin', kind: 'fit', what: 'locking pin' },
    { id: 't', kind: 'tighten', condition: ['pressure off and cold'] },
  ],
});

test('every kind of stage can be begun, under an id of its own', () => {
  const doc = plan();
  for (const [kind] of STAGE_KINDS) {
    const made = newStage(kind, doc);
    assert.equal(made.kind, kind);
    assert.ok(Object.keys(made).length > 2, kind);
    assert.ok(!doc.stages.some((s) => s.id === made.id), kind);
    doc.stages.push(made);
  }
  assert.equal(new Set(doc.stages.map((s) => s.id)).size, doc.stages.length);
});

test('what turns or checks bolts begins in the condition the plan tightens in', () => {
  for (const kind of ['tighten', 'loosen', 'jack_out', 'inspect', 'measure'])
    assert.deepEqual(newStage(kind, plan()).condition, ['pressure off and cold'], kind);
  const bare = { ...plan(), stages: [] };
  assert.deepEqual(newStage('tighten', bare).condition, ['load off']);
});

test('a new tighten stage takes all groups and the first chain', () => {
  const made = newStage('tighten', plan());
  assert.deepEqual([made.groups, made.chains, made.method], [['inner', 'outer'], ['main'], 'rising_cross']);
});

test('what is put on begins with the compound the figure is computed for', () => {
  const made = newStage('apply', plan());
  assert.deepEqual([made.compound, made.what], ['moly-paste', 'moly paste']);
  const banded = { ...plan(), groups: [{ id: 'b', friction: { mu_thread: [0.1, 0.12, 0.14] } }] };
  assert.equal(newStage('apply', banded).compound, undefined);
});

test('taking out begins with what was fitted and is still in', () => {
  const doc = plan();
  assert.equal(newStage('remove', doc).fit, 'pin');
  doc.stages.push({ id: 'out', kind: 'remove', fit: 'pin' } as never);
  const second = newStage('remove', doc);
  assert.deepEqual([second.fit, second.what], [undefined, 'what comes off']);
});

test('loosening and pressing off are for taking apart', () => {
  for (const kind of ['loosen', 'jack_out']) assert.deepEqual(newStage(kind, plan()).in, ['dismantle']);
});

test('stages move by one and stay at the ends', () => {
  const stages = [{ id: 'a' }, { id: 'b' }, { id: 'c' }];
  move(stages, 0, -1);
  move(stages, 2, 1);
  assert.deepEqual(
    stages.map((s) => s.id),
    ['a', 'b', 'c'],
  );
  move(stages, 0, 1);
  assert.deepEqual(
    stages.map((s) => s.id),
    ['b', 'a', 'c'],
  );
  move(stages, 2, -1);
  assert.deepEqual(
    stages.map((s) => s.id),
    ['b', 'c', 'a'],
  );
});

test('a fresh id is one that no other has', () => {
  assert.equal(fresh([], 'i'), 'i1');
  assert.equal(fresh([{ id: 'x' }, { id: 'i3' }], 'i'), 'i4');
});

test('ticked names stand in the order of all names', () => {
  const all = ['install', 'dismantle', 'recheck'];
  assert.deepEqual(toggled(['recheck'], all, 'install', true), ['install', 'recheck']);
  assert.deepEqual(toggled(['install', 'recheck'], all, 'install', false), ['recheck']);
  assert.deepEqual(toggled(['install'], all, 'install', true), ['install']);
});

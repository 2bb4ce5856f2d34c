import assert from 'node:assert/strict';
import { test } from 'node:test';
import { planOf } from '../src/routes/plans/[id]/file.ts';

const plan = { format: 'orthotorq.plan', version: 1, title: 'X', joint: 'A/b', groups: [{ id: 'g' }], stages: [{ id: 's' }] };

test('a plan file takes the joint of the draft it replaces', () => {
  const found = planOf(JSON.stringify(plan), 'EV-2/cover');
  assert.ok('doc' in found);
  assert.equal(found.doc.joint, 'EV-2/cover');
  assert.equal(found.doc.title, 'X');
  assert.deepEqual(found.doc.tools, {});
});

test('a draft without a joint keeps that of the file', () => {
  const found = planOf(JSON.stringify(plan), undefined);
  assert.ok('doc' in found && found.doc.joint === 'A/b');
});

for (const [what, text, words] of [
  ['no JSON', 'title: X', 'not JSON'],
  ['a list', '[]', 'no plan file'],
  ['nothing', 'null', 'no plan file'],
  ['another format', '{"format": "other"}', 'no plan file'],
  ['no groups', JSON.stringify({ ...plan, groups: [] }), 'no groups'],
  ['groups that are none', JSON.stringify({ ...plan, groups: [1] }), 'no groups'],
  ['stages that are none', JSON.stringify({ ...plan, stages: 'x' }), 'no groups'],
  ['too much', `"${'x'.repeat(2_000_001)}"`, 'larger than 2 MB'],
] as const)
  test(`${what} is refused with a sentence`, () => {
    const found = planOf(text, undefined);
    assert.ok('error' in found && found.error.includes(words));
  });

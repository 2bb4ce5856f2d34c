import assert from 'node:assert/strict';
import { test } from 'node:test';
import { addGroup, dropGroup } from '../src/routes/plans/[id]/groups.ts';

const plan = () => ({
  groups: [{ id: 'g1', name: 'Nuts', fastener: { grade: 'ISO 898-1 10.9' }, friction: { lubricant: 'moly-paste' } }],
  targets: { g1: { kind: 'torque', torque: '100 N·m' } } as Record<string, unknown>,
  sources: [{ id: 's', groups: ['g1', 'g2'] }],
  stages: [
    { id: 't', groups: ['g1', 'g2'], chain_for: { g2: 'small' } },
    {
      id: 'look',
      checks: [
        { id: 'c', per: 'g2' },
        { id: 'd', per: 'run' },
      ],
    },
  ],
});

test('a new group takes grade and friction of the first, under an id and with a target of its own', () => {
  const doc = plan();
  const id = addGroup(doc);
  const made = doc.groups.find((g) => g.id === id)!;
  assert.notEqual(id, 'g1');
  assert.deepEqual([made.fastener.grade, made.friction], ['ISO 898-1 10.9', { lubricant: 'moly-paste' }]);
  assert.notEqual(made.friction, doc.groups[0]!.friction);
  assert.ok(doc.targets[id]);
});

test('a group taken out is named nowhere any more', () => {
  const doc = plan();
  assert.equal(addGroup(doc), 'g2');
  dropGroup(doc, 'g2');
  assert.ok(!JSON.stringify(doc).includes('g2'));
  assert.deepEqual(doc.stages[0]!.groups, ['g1']);
  assert.equal(doc.stages[1]!.checks![1]!.per, 'run');
});

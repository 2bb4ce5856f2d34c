import assert from 'node:assert/strict';
import { test } from 'node:test';
import { band, changed, newTool, partsOf } from '../src/routes/plans/[id]/chains.ts';

const MULTIPLIER = { multiplier: 5, efficiency: [0.87, 0.9, 0.93], arm: '450 mm', rests_on: 'the next nut' };

test('a wrench alone has no parts', () => {
  assert.deepEqual(partsOf(['w']), { adapter: '', angle: '', ratio: '', efficiency: '', arm: '', restsOn: '', more: 0 });
});

test('an adapter comes at the wrench and a multiplier behind it', () => {
  let chain = changed(['w'], 'ratio', '5');
  chain = changed(chain, 'adapter', ' 90 mm ');
  assert.deepEqual(chain, ['w', { adapter: '90 mm' }, { multiplier: 5 }]);
  chain = changed(chain, 'angle', '45 deg');
  chain = changed(chain, 'arm', '450 mm');
  assert.deepEqual(chain, ['w', { adapter: '90 mm', angle: '45 deg' }, { multiplier: 5, arm: '450 mm' }]);
  assert.deepEqual(partsOf(chain).arm, '450 mm');
});

test('what is emptied is gone, and its details with it', () => {
  const chain = ['w', { adapter: '90 mm', angle: '45 deg' }, MULTIPLIER];
  assert.deepEqual(changed(chain, 'adapter', ''), ['w', MULTIPLIER]);
  assert.deepEqual(changed(chain, 'ratio', ' '), ['w', { adapter: '90 mm', angle: '45 deg' }]);
  const { rests_on: _, ...without } = MULTIPLIER;
  assert.deepEqual(changed(['w', MULTIPLIER], 'restsOn', ''), ['w', without]);
});

test('one efficiency stands for all three; anything else is left to the server', () => {
  assert.deepEqual(band('0.9'), [0.9, 0.9, 0.9]);
  assert.deepEqual(band('0.87 0.9; 0.93'), [0.87, 0.9, 0.93]);
  assert.deepEqual(band('0,9 0.95'), ['0,9', 0.95]);
  assert.deepEqual(changed(['w', { multiplier: 5 }], 'efficiency', '0.9'), ['w', { multiplier: 5, efficiency: [0.9, 0.9, 0.9] }]);
  assert.deepEqual(changed(['w', MULTIPLIER], 'efficiency', ''), [
    'w',
    { multiplier: 5, arm: '450 mm', rests_on: 'the next nut' },
  ]);
});

test('what is not touched stays as it was, a second multiplier too', () => {
  const second = { multiplier: 3.5, efficiency: [0.8, 0.85, 0.9] };
  const chain = ['w', MULTIPLIER, second];
  assert.equal(partsOf(chain).more, 1);
  assert.deepEqual(changed(chain, 'arm', '300 mm'), ['w', { ...MULTIPLIER, arm: '300 mm' }, second]);
  assert.deepEqual(changed(['w', { multiplier: 'five' }], 'arm', '1 m'), ['w', { multiplier: 'five', arm: '1 m' }]);
});

test('a ratio that is no number is left to the server', () => {
  assert.deepEqual(changed(['w'], 'ratio', '5:1'), ['w', { multiplier: '5:1' }]);
});

test('a new tool has a name of its own and a chain of its own', () => {
  const made = newTool({ tools: { w: {}, w2: {} }, chains: { main: ['w'], c3: ['w2'] } });
  assert.deepEqual([made.tool, made.chain], ['w4', 'c4']);
  assert.equal(made.spec.kind, 'click wrench');
  assert.equal(newTool({}).tool, 'w2');
});

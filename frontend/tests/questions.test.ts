import assert from 'node:assert/strict';
import { test } from 'node:test';
import { QUESTIONS } from '../src/routes/sums/[name]/questions.ts';

test('a question asks five things at most, each once', () => {
  for (const question of QUESTIONS) {
    assert.ok(question.fields.length >= 1 && question.fields.length <= 5, question.name);
    assert.equal(new Set(question.fields).size, question.fields.length, question.name);
  }
});

test('every question has its own name and its own words', () => {
  assert.equal(new Set(QUESTIONS.map((q) => q.name)).size, QUESTIONS.length);
  assert.equal(new Set(QUESTIONS.map((q) => q.title)).size, QUESTIONS.length);
});

test('every question begins with an example in units', () => {
  for (const question of QUESTIONS) {
    assert.ok(Object.keys(question.begin).length, question.name);
    for (const text of Object.values(question.begin)) assert.ok(text.trim(), question.name);
  }
});

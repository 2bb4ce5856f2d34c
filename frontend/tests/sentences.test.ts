/**
 * Sentences have one place (sentences.json): no screen glues one together, every key is used with
 * all of its values.
 */
import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { test } from 'node:test';
import {
  parse as parseText,
  TYPE,
  type MessageFormatElement,
} from '@formatjs/icu-messageformat-parser';
import { parse } from 'svelte/compiler';

const SRC = new URL('../src/', import.meta.url);
const files = readdirSync(SRC, { recursive: true, encoding: 'utf8' }).filter(
  (name) => name.endsWith('.svelte') || (name.endsWith('.ts') && !name.endsWith('.d.ts')),
);
/** A screen, or a module as a screen that has nothing but it. */
const read = (name: string) => {
  const source = readFileSync(new URL(name, SRC), 'utf8');
  return name.endsWith('.ts') ? `<script lang="ts">${source}</script>` : source;
};
const texts = JSON.parse(readFileSync(new URL('lib/sentences.json', SRC), 'utf8')) as Record<
  string,
  string
>;

type Node = Record<string, unknown> & { type: string; start: number; end: number };
const isNode = (value: unknown): value is Node =>
  typeof value === 'object' && value !== null && 'type' in value;

/**
 * Words beside a value: a unit, “of” and the name on every tab say nothing that would be worded
 * otherwise elsewhere.
 */
const words = (text: string) =>
  (text.match(/(?<![\w-])[A-Za-z’]{2,}(?![\w-])/g) ?? []).filter(
    (word) => !/^(mm|kN|of|and|to|Orthotorq|Quick|sums|Imported)$/.test(word),
  );
/** Parts of a sentence that a condition puts in: a plural, or what goes on after a comma. */
const FRAGMENT = /^(s|es|[,;:.] .*| .*[a-z]{3}.*)$/;
const NO_SENTENCE = [
  'class',
  'href',
  'src',
  'style',
  'id',
  'for',
  'aria-describedby',
  'd',
  'fill',
  'mask',
  'transform',
  'viewBox',
  'at',
];

function glued(source: string): string[] {
  const found: string[] = [];
  const take = (from: Node, to: Node = from) =>
    found.push(source.slice(from.start, to.end).replaceAll(/\s+/g, ' ').trim());
  const walk = (value: unknown, attribute: string) => {
    if (Array.isArray(value)) {
      const parts = value.filter(isNode);
      const text = parts.filter((one) => one.type === 'Text').map((one) => String(one.data));
      if (parts.some((one) => one.type === 'ExpressionTag') && !NO_SENTENCE.includes(attribute)) {
        if (words(text.join(' ')).length > 1) take(parts[0]!, parts.at(-1));
      }
      for (const one of parts) walk(one, attribute);
      return;
    }
    if (!isNode(value)) return;
    const at =
      value.type === 'Attribute' || value.type === 'StyleDirective'
        ? value.type === 'StyleDirective'
          ? 'style'
          : String(value.name)
        : attribute;
    if (value.type === 'TemplateLiteral' && !NO_SENTENCE.includes(at)) {
      const text = (value.quasis as { value: { raw: string } }[])
        .map((quasi) => quasi.value.raw)
        .join('\0');
      const classes = /\b(border|bg|text)-/.test(text);
      if (/[a-z] |\0 ?[a-z]| \0/.test(text) && words(text).length > 1 && !classes) take(value);
    }
    if (value.type === 'ConditionalExpression' && !NO_SENTENCE.includes(at)) {
      for (const side of [value.consequent, value.alternate] as Node[]) {
        if (side.type === 'Literal' && typeof side.value === 'string' && FRAGMENT.test(side.value))
          take(value);
      }
    }
    for (const [name, inner] of Object.entries(value))
      if (name !== 'parent' && name !== 'css') walk(inner, at);
  };
  walk(parse(source, { modern: true }), '');
  return found;
}

test('no screen glues a sentence together', () => {
  const found = files.flatMap((name) =>
    glued(read(name)).map((sentence) => `${name}: ${sentence}`),
  );
  assert.deepEqual(found, []);
});

test('a glued sentence is seen wherever it stands', () => {
  for (const source of [
    '<p>{count} bolts are left</p>',
    '<p>{count} bolt{count === 1 ? "" : "s"}</p>',
    '<b aria-label="Bolt {n} of the cover">x</b>',
    '<script lang="ts">const said = `Bolt ${n} was left`;</script>',
    '<p>{why ? `Left, ${why} it was` : ""}</p>',
  ])
    assert.equal(glued(source).length > 0, true, source);
  for (const source of ['<p>Bolt {n}</p>', '<p class="a {b} c">Two words</p>', '<p>{n} mm</p>'])
    assert.deepEqual(glued(source), []);
});

/** Names of the values that a text asks for. */
function asked(elements: MessageFormatElement[], names = new Set<string>()): Set<string> {
  for (const one of elements) {
    if (one.type === TYPE.tag) asked(one.children, names);
    else if (one.type === TYPE.argument) names.add(one.value);
    else if (one.type === TYPE.select || one.type === TYPE.plural) {
      names.add(one.value);
      for (const option of Object.values(one.options)) asked(option.value, names);
    }
  }
  return names;
}

/** Keys of sentences in a screen, with the names of the values that are given. */
function uses(source: string): [string, string[]][] {
  const found: [string, string[]][] = [];
  const names = (value: unknown) =>
    isNode(value) && value.type === 'ObjectExpression'
      ? (value.properties as { key: { name: string } }[]).map((one) => one.key.name)
      : [];
  const walk = (value: unknown) => {
    if (Array.isArray(value)) return value.forEach(walk);
    if (!isNode(value)) return;
    if (
      value.type === 'CallExpression' &&
      (value.callee as { name?: string }).name === 'sentence'
    ) {
      const [key, values] = value.arguments as Node[];
      found.push([String(key!.value), names(values)]);
    }
    if (value.type === 'Component' && value.name === 'Sentence') {
      const given = (name: string) =>
        (value.attributes as Node[]).find((one) => one.name === name)?.value;
      const values = names((given('values') as { expression: unknown }).expression);
      const key = given('key');
      if (Array.isArray(key)) found.push([(key[0] as { data: string }).data, values]);
    }
    for (const [name, inner] of Object.entries(value))
      if (name !== 'parent' && name !== 'css') walk(inner);
  };
  walk(parse(source, { modern: true }));
  return found;
}

test('every sentence is used, with exactly the values that it asks for', () => {
  // which of the two stands there is chosen by whether the file is proved
  const used = new Set(['file.proved', 'file.not_proved']);
  for (const name of files) {
    for (const [key, values] of uses(read(name))) {
      used.add(key);
      assert.ok(key in texts, `${name}: ${key}`);
      assert.deepEqual(
        values.toSorted(),
        [...asked(parseText(texts[key]!))].toSorted(),
        `${name}: ${key}`,
      );
    }
  }
  assert.deepEqual(
    Object.keys(texts).filter((key) => !used.has(key)),
    [],
  );
});

/** Pure functions of the parts, run by node's own test runner. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { atDecimal, digits, kN, percent, small } from '../src/lib/figures.ts';
import { press, type Key } from '../src/lib/keys.ts';
import { uuid7 } from '../src/lib/offline/device.ts';
import { geometryOf, hexagon, visible } from '../src/lib/parts/JointFace/geometry.ts';
import { spread } from '../src/lib/parts/WindowGauge/layout.ts';
import { kept, steady } from '../src/lib/steady.ts';

function circle(count: number, radius: number) {
  return Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count;
    return {
      id: `b.${i + 1}`,
      number: i + 1,
      x_mm: radius * Math.sin(angle),
      y_mm: radius * Math.cos(angle),
      angle_deg: (angle * 180) / Math.PI,
    };
  });
}

test('hexagons never overlap, however many bolts stand on the circle', () => {
  for (const count of [2, 3, 4, 8, 16, 40, 120, 400]) {
    const face = geometryOf(circle(count, 200), 36);
    const chord = 400 * Math.sin(Math.PI / count);
    assert.ok(2 * face.radius <= chord + 1e-9, `${count} bolts`);
    assert.ok(face.half >= 200 + face.radius);
  }
});

test('the box holds every hexagon of a row, a grid and free points', () => {
  const rows = [
    [0, 60, 120, 180].map((x) => [x, 0]),
    [0, 80, 160].flatMap((x) => [0, 50].map((y) => [x, y])),
    [
      [-10, 4],
      [70, 30],
      [20, -90],
    ],
  ];
  for (const points of rows) {
    const face = geometryOf(
      points.map(([x, y], i) => ({ id: `p.${i}`, number: i, x_mm: x!, y_mm: y!, angle_deg: 0 })),
      24,
    );
    const [left, top, width, height] = face.box;
    assert.ok(face.plate);
    for (const [x, y] of points) {
      assert.ok(x! - face.radius >= left && x! + face.radius <= left + width);
      assert.ok(-y! - face.radius >= top && -y! + face.radius <= top + height);
    }
  }
});

test('of two groups in the same holes the wanted one is drawn', () => {
  const both = [
    ...circle(4, 50),
    ...circle(4, 50).map((p) => ({ ...p, id: p.id.replace('b', 'nut') })),
  ];
  assert.deepEqual(
    visible(both, ['nut.2']).map((p) => p.id),
    ['nut.1', 'nut.2', 'nut.3', 'nut.4'],
  );
  assert.equal(visible(both, []).length, 4);
});

test('a circle gets a flange ring, other layouts get none', () => {
  assert.ok(geometryOf(circle(8, 100), 24).ring);
  const row = [0, 60, 120, 180].map((x, i) => ({
    id: `r.${i}`,
    number: i,
    x_mm: x,
    y_mm: 0,
    angle_deg: 0,
  }));
  assert.equal(geometryOf(row, 24).ring, null);
});

test('one bolt alone can be drawn', () => {
  const face = geometryOf([{ id: 'c.1', number: 1, x_mm: 0, y_mm: 0, angle_deg: 0 }], 46);
  assert.ok(Number.isFinite(face.half) && face.radius > 0);
});

test('a hexagon has six corners at its radius', () => {
  const corners = hexagon(10, -5, 7, 0.3)
    .split(' ')
    .map((p) => p.split(',').map(Number));
  assert.equal(corners.length, 6);
  for (const [x, y] of corners) assert.ok(Math.abs(Math.hypot(x! - 10, y! + 5) - 7) < 0.02);
});

test('labels of the gauge keep their order and their distance, and stay on the scale', () => {
  for (const marks of [[145, 148, 171], [0, 1, 2], [398, 399, 400], [200], [10, 200, 390]]) {
    const placed = spread(
      marks.map((x) => ({ x })),
      400,
      56,
    );
    placed.forEach((one, i) => {
      assert.ok(one.at >= 27.9 && one.at <= 372.1, `${marks}: ${one.at}`);
      if (i) assert.ok(one.at - placed[i - 1]!.at >= 55.9, `${marks}`);
    });
  }
  assert.deepEqual(
    spread([{ x: 100 }, { x: 300 }], 400, 56).map((one) => one.at),
    [100, 300],
  );
});

test('figures for people', () => {
  assert.deepEqual(
    [kN(127_960), kN(8_250), digits(0.158842), percent(0.625, 1)],
    ['128', '8.3', '0.1588', '62.5 %'],
  );
});

test('decimal signs of a column stand below each other', () => {
  assert.deepEqual(atDecimal(['455.2 N·m', '0.158', '−7', 'ISO 898-1 8.8', '12 × M8']), [
    '455.2 N·m',
    '\u2007\u20070.158',
    '\u2007−7',
    'ISO 898-1 8.8',
    '\u200712 × M8',
  ]);
});

test('ids are of version 7 and rise with time', () => {
  const ids = [1, 2, 3].map((n) => uuid7(1_795_000_000_000 + n * 1000));
  for (const id of ids)
    assert.match(id, /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  assert.deepEqual([...ids].sort(), ids);
  assert.equal(new Set(Array.from({ length: 500 }, () => uuid7())).size, 500);
});

function event(key: string, more: object = {}): KeyboardEvent {
  return {
    key,
    repeat: false,
    ctrlKey: false,
    altKey: false,
    metaKey: false,
    target: { tagName: 'DIV' },
    preventDefault() {},
    ...more,
  } as unknown as KeyboardEvent;
}

test('a key answers once: not while held, not with modifiers, not while typing', () => {
  let count = 0;
  const table: Key[] = [{ key: 'space', words: 'answer', run: () => count++ }];
  assert.ok(press(event(' '), table));
  assert.ok(!press(event(' ', { repeat: true }), table));
  assert.ok(!press(event(' ', { ctrlKey: true }), table));
  assert.ok(!press(event(' ', { target: { tagName: 'INPUT' } }), table));
  assert.ok(!press(event('x'), table));
  const boxed = {
    document: { querySelector: (what: string) => (what === 'dialog[open]' ? {} : null) },
  };
  assert.ok(!press(event(' ', { view: boxed as unknown as Window }), table));
  assert.equal(count, 1);
});

test('keys of remotes are known by name and letters in either case', () => {
  const heard: string[] = [];
  const table: Key[] = ['d', 'PageDown', 'Enter'].map((key) => ({
    key,
    words: key,
    run: () => heard.push(key),
  }));
  for (const key of ['D', 'PageDown', 'Enter']) press(event(key), table);
  assert.deepEqual(heard, ['d', 'PageDown', 'Enter']);
});

test('an answer keeps the objects of the last one wherever they are equal', () => {
  const last = {
    groups: [
      { id: 'a', n: [1, 2] },
      { id: 'b', n: [3] },
    ],
    note: null,
    findings: [{ code: 'x' }],
  };
  const same = steady(last, structuredClone(last));
  assert.equal(same, last);
  const next = steady(last, {
    ...structuredClone(last),
    groups: [
      { id: 'a', n: [1, 2] },
      { id: 'b', n: [4] },
    ],
  });
  assert.deepEqual(next.groups[1], { id: 'b', n: [4] });
  assert.equal(next.groups[0], last.groups[0]);
  assert.equal(next.findings, last.findings);
  assert.notEqual(next.groups, last.groups);
});

test('what was added, taken away, renamed or turned into another kind is seen', () => {
  const cases: [unknown, unknown][] = [
    [
      [1, 2, 3],
      [1, 2],
    ],
    [[1], [1, 2]],
    [{ a: 1 }, { a: 1, b: undefined }],
    [{ a: 1, b: 2 }, { a: 1 }],
    [{ a: 1 }, { b: 1 }],
    [{ 0: 1 }, [1]],
    [[1], { 0: 1 }],
    [null, { a: 1 }],
    [{ a: 1 }, null],
    [{ a: undefined }, { b: undefined }],
    ['1', 1],
  ];
  for (const [before, after] of cases) {
    const out = steady(before, after);
    assert.deepEqual(out, after);
    if (typeof before === 'object' && before) assert.notEqual(out, before);
  }
});

test('a kept value stays the same object until it differs', () => {
  let number = 1;
  const value = kept(() => ({ number, list: ['same'] }));
  const first = value();
  assert.equal(value(), first);
  number = 2;
  assert.deepEqual(value(), { number: 2, list: ['same'] });
  assert.equal(value().list, first.list);
});

test('words in the middle of a sentence begin small, units and abbreviations stay', () => {
  assert.equal(small('Clicked, did not turn'), 'clicked, did not turn');
  for (const same of ['16 N·m', 'PTFE coated', 'N·m', '190 mm', '', 'done'])
    assert.equal(small(same), same);
});

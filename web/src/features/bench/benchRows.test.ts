import { expect, test } from 'vitest';
import type { BenchRow, BenchSlot } from '../../api/client';
import { counts, shownRows } from './benchRows';

const slot = (image: string, more: Partial<BenchSlot> = {}): BenchSlot => ({
  image,
  path: image,
  key: image,
  state: 'file',
  part: '',
  factor: '',
  swatch: '',
  width: 8,
  height: 8,
  bytes: 100,
  looks: '',
  care: '',
  ...more,
});

const row = (name: string, near: BenchSlot | undefined, far: BenchSlot | undefined): BenchRow => ({
  name,
  nearId: 1,
  farId: 1,
  shading: 'phong',
  faces: 4,
  nodeIds: [],
  cells: [{ channel: 'NORMAL', near, far } as BenchRow['cells'][number]],
});

const ROWS = [
  row('oak', slot('oak_n.png'), slot('oak_n.png')),
  row('brass', undefined, slot('plate.png')),
  row('glass', undefined, undefined),
  row(
    'rope',
    slot('r.png', { state: 'missing', care: 'not found' }),
    slot('r.png', { state: 'missing', care: 'not found' }),
  ),
  row('sail', slot('s.png', { care: 'colours' }), slot('s.png', { care: 'colours' })),
  { ...row('tar', slot('t.png'), slot('t.png')), faces: 0 },
];

test('filters let pass what they say', () => {
  expect(counts(ROWS)).toEqual({
    all: 6,
    missing: 1,
    bare: 1,
    wrong: 1,
    unused: 1,
    changed: 1,
  });
  expect(shownRows(ROWS, 'bare', '').map((r) => r.name)).toEqual(['glass']);
  expect(shownRows(ROWS, 'wrong', '').map((r) => r.name)).toEqual(['sail']);
  expect(shownRows(ROWS, 'unused', '').map((r) => r.name)).toEqual(['tar']);
  expect(shownRows(ROWS, 'changed', '').map((r) => r.name)).toEqual(['brass']);
});

test('a text is found in materials and in images', () => {
  expect(shownRows(ROWS, 'all', 'OAK').map((r) => r.name)).toEqual(['oak']);
  expect(shownRows(ROWS, 'all', 'plate').map((r) => r.name)).toEqual(['brass']);
});

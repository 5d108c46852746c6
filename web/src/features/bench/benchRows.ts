import type { BenchRow, BenchSlot } from '../../api/client';

export type Filter = 'all' | 'missing' | 'bare' | 'wrong' | 'unused' | 'changed';

export const FILTERS: { id: Filter; label: string; help: string }[] = [
  { id: 'all', label: 'All', help: 'Every material' },
  { id: 'missing', label: 'Missing', help: 'An image is not found' },
  { id: 'bare', label: 'No image', help: 'Faces have it, and no channel has an image' },
  {
    id: 'wrong',
    label: 'Wrong image',
    help: 'An image does not look like what its channel is for',
  },
  { id: 'unused', label: 'Unused', help: 'No face has it' },
  { id: 'changed', label: 'Changed', help: 'The far side has other images than the near side' },
];

/** Whether both sides have the same in a channel. */
export function isSame(near: BenchSlot | null | undefined, far: BenchSlot | null | undefined) {
  const text = (s: BenchSlot | null | undefined) =>
    s ? [s.image, s.state, s.part, s.factor].join('|') : '';
  return text(near) === text(far);
}

function fits(row: BenchRow, filter: Filter): boolean {
  switch (filter) {
    case 'missing':
      return row.cells.some((c) => c.far?.state === 'missing');
    case 'bare':
      return row.faces > 0 && row.cells.every((c) => !c.far?.image);
    case 'wrong':
      return row.cells.some((c) => c.far && c.far.state !== 'missing' && c.far.care !== '');
    case 'unused':
      return row.faces === 0;
    case 'changed':
      return row.cells.some((c) => !isSame(c.near, c.far));
    default:
      return true;
  }
}

/** Rows whose material or image has a text in its name, and that a filter lets pass. */
export function shownRows(rows: BenchRow[], filter: Filter, find: string): BenchRow[] {
  const text = find.trim().toLowerCase();
  return rows.filter(
    (row) =>
      fits(row, filter) &&
      (text === '' ||
        row.name.toLowerCase().includes(text) ||
        row.cells.some((c) => c.far?.image.toLowerCase().includes(text))),
  );
}

/** How many rows each filter lets pass. */
export function counts(rows: BenchRow[]): Record<Filter, number> {
  const number = (filter: Filter) => rows.filter((r) => fits(r, filter)).length;
  return {
    all: rows.length,
    missing: number('missing'),
    bare: number('bare'),
    wrong: number('wrong'),
    unused: number('unused'),
    changed: number('changed'),
  };
}

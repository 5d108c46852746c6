import { describe, expect, it } from 'vitest';
import { keepOrder } from './order';

const rows = (text: string) => [...text].map((id) => ({ id }));
const ids = (list: { id: string }[]) => list.map((r) => r.id).join('');

describe('keepOrder', () => {
  it('keeps what is shown in its place when the rows come in another order', () => {
    expect(ids(keepOrder(['a', 'b', 'c'], rows('cab')))).toBe('abc');
  });

  it('puts new rows below, in their own order, and leaves out those that are gone', () => {
    expect(ids(keepOrder(['a', 'b', 'c'], rows('xcya')))).toBe('acxy');
  });

  it('takes the rows as they come when nothing is shown yet', () => {
    expect(ids(keepOrder([], rows('bca')))).toBe('bca');
  });
});

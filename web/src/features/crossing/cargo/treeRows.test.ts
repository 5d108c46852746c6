import { describe, expect, it } from 'vitest';
import type { NodeView } from '../../../api/client';
import { outsideOf, visibleRows } from './treeRows';

const node = (id: number, parent: number, name: string, mesh = ''): NodeView => ({
  id,
  parent,
  name,
  mesh,
  path: name,
  kind: mesh ? 'mesh' : 'group',
  matrix: [],
  pivot: [],
  drawn: true,
  skin: -1,
  weights: [],
  level: -1,
});
const nodes = [
  node(1, -1, 'weir'),
  node(2, 1, 'gate', 'a'),
  node(3, 1, 'wheel'),
  node(4, 3, 'paddle', 'b'),
];

describe('rows of the cargo list', () => {
  it('shows all parts with their depth', () => {
    expect(visibleRows(nodes, new Set(), '').map((r) => r.depth)).toEqual([0, 1, 1, 2]);
  });
  it('shows a part below what it hangs on, wherever it stands in the list', () => {
    const mixed = [
      node(1, -1, 'fine'),
      node(2, -1, 'coarse'),
      node(3, 2, 'hook', 'a'),
      node(4, 1, 'levels'),
      node(5, 4, 'post', 'b'),
    ];
    expect(visibleRows(mixed, new Set(), '').map((r) => r.node.name)).toEqual([
      'fine',
      'levels',
      'post',
      'coarse',
      'hook',
    ]);
  });
  it('leaves out what is below a closed part', () => {
    const rows = visibleRows(nodes, new Set([3]), '');
    expect(rows.map((r) => r.node.name)).toEqual(['weir', 'gate', 'wheel']);
  });
  it('keeps the parents of what is searched', () => {
    const rows = visibleRows(nodes, new Set([3]), 'PADD');
    expect(rows.map((r) => r.node.name)).toEqual(['weir', 'wheel', 'paddle']);
  });
  it('names what is outside a selection', () => {
    expect(outsideOf(nodes, [3])).toEqual([2]);
    expect(outsideOf(nodes, [1])).toEqual([]);
  });
});

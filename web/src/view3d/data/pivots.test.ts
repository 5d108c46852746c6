import { BufferAttribute, BufferGeometry } from 'three';
import { expect, test } from 'vitest';
import type { NodeView, SideView } from '../../api/client';
import type { Part } from './meshBlock';
import { boxPoints, gridCrossing, pivotOf, toPivot } from './pivots';

const moved = (x: number, y: number, z: number) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];

function node(id: number, parent: number, matrix: number[], pivot: number[] = []): NodeView {
  const rest = { name: '', path: '', kind: 'mesh', skin: -1, weights: [], drawn: true, level: -1 };
  return { id, parent, mesh: 'm', matrix, pivot, ...rest };
}

const geometry = new BufferGeometry();
geometry.setAttribute('position', new BufferAttribute(new Float32Array([0, 0, 0, 2, 4, 6]), 3));
const parts = new Map<string, Part[]>([
  ['m', [{ kind: 'triangles', material: -1, geometry, triangles: 0 }]],
]);

test('the points of a box go around the part and what hangs on it', () => {
  const nodes = [
    node(1, -1, moved(0, 0, 0)),
    node(2, 1, moved(10, 0, 0)),
    node(3, -1, moved(99, 0, 0)),
  ];
  const points = boxPoints({ nodes } as unknown as SideView, parts, 1);
  expect(points).toHaveLength(27);
  const at = (side: string, height: string, depth: string) =>
    points.find((p) => p.side === side && p.height === height && p.depth === depth)?.position;
  expect(at('left', 'base', 'front')).toEqual([12, 0, 6]);
  expect(at('right', 'top', 'back')).toEqual([0, 4, 0]);
  expect(at('middle', 'middle', 'middle')).toEqual([6, 2, 3]);
  expect(boxPoints({ nodes } as unknown as SideView, new Map(), 1)).toEqual([]);
});

test('a pivot follows what its part shows', () => {
  const shown = node(1, -1, moved(3, 0, 0), moved(1, 0, 0));
  expect(pivotOf(shown).elements[12]).toBe(1);
  expect(toPivot(shown).elements[12]).toBe(-2);
  expect(pivotOf(node(1, -1, moved(3, 0, 0))).elements[12]).toBe(3);
});

test('crossings of the ground are round', () => {
  expect(gridCrossing([0.29, 0, -0.34], 0.1)).toEqual([0.3, 0, -0.3]);
  expect(gridCrossing([-0.01, 0, 0], 0.1)).toEqual([0, 0, 0]);
});

import { Matrix4, Vector3 } from 'three';
import type { NodeView, SideView } from '../../api/client';
import type { Vec3 } from '../viewState';
import type { Part } from './meshBlock';

/** A point of a part's box, and what the step that sets pivots calls it. */
export interface BoxPoint {
  position: Vec3;
  side: 'left' | 'middle' | 'right';
  height: 'base' | 'middle' | 'top';
  depth: 'back' | 'middle' | 'front';
}

const SIDES = ['right', 'middle', 'left'] as const;
const HEIGHTS = ['base', 'middle', 'top'] as const;
const DEPTHS = ['back', 'middle', 'front'] as const;

/** A part's own axes in its view. */
export function pivotOf(node: NodeView): Matrix4 {
  return new Matrix4().fromArray(node.pivot.length === 16 ? node.pivot : node.matrix);
}

/** Carries what a part shows to the part's own axes, the same in every pose. */
export function toPivot(node: NodeView): Matrix4 {
  return new Matrix4().fromArray(node.matrix).invert().multiply(pivotOf(node));
}

/**
 * Corners, middles of edges and faces, and the middle of the box around a part and what hangs on
 * it: 27 points, of the far view, whose +X is the asset's left; none for a part that shows nothing.
 */
export function boxPoints(side: SideView, parts: Map<string, Part[]>, nodeId: number): BoxPoint[] {
  const least = new Vector3(Infinity, Infinity, Infinity);
  const most = new Vector3(-Infinity, -Infinity, -Infinity);
  const inside = new Set([nodeId]);
  const matrix = new Matrix4();
  const point = new Vector3();
  for (const node of side.nodes) {
    if (inside.has(node.parent)) {
      inside.add(node.id);
    }
    if (!inside.has(node.id) || !node.mesh) {
      continue;
    }
    matrix.fromArray(node.matrix);
    for (const part of parts.get(node.mesh) ?? []) {
      const position = part.geometry.getAttribute('position');
      for (let i = 0; i < position.count; i++) {
        point.fromBufferAttribute(position, i).applyMatrix4(matrix);
        least.min(point);
        most.max(point);
      }
    }
  }
  if (least.x > most.x) {
    return [];
  }
  const at = (k: 'x' | 'y' | 'z', i: number) => least[k] + ((most[k] - least[k]) * i) / 2;
  const points: BoxPoint[] = [];
  for (const [x, s] of SIDES.entries()) {
    for (const [y, h] of HEIGHTS.entries()) {
      for (const [z, d] of DEPTHS.entries()) {
        points.push({
          position: [at('x', x), at('y', y), at('z', z)],
          side: s,
          height: h,
          depth: d,
        });
      }
    }
  }
  return points;
}

/** The crossing of the ground's lines that is nearest to a point of the ground. */
export function gridCrossing(point: Vec3, square: number): Vec3 {
  const snap = (v: number) => Number((Math.round(v / square) * square).toPrecision(12)) + 0;
  return [snap(point[0]), 0, snap(point[2])];
}

import type { SideView } from '../../api/client';
import type { Vec3 } from '../viewState';

export interface Box {
  min: Vec3;
  max: Vec3;
}

/** The box of a side, or a metre cube when it is empty. */
export function sideBox(side: SideView): Box {
  const b = side.bounds;
  return b.length === 6
    ? {
        min: [b[0] as number, b[1] as number, b[2] as number],
        max: [b[3] as number, b[4] as number, b[5] as number],
      }
    : { min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] };
}

export function centreOf(box: Box): Vec3 {
  return [
    (box.min[0] + box.max[0]) / 2,
    (box.min[1] + box.max[1]) / 2,
    (box.min[2] + box.max[2]) / 2,
  ];
}

/** Half the diagonal; never zero. */
export function radiusOf(box: Box): number {
  const d = Math.hypot(box.max[0] - box.min[0], box.max[1] - box.min[1], box.max[2] - box.min[2]);
  return Math.max(d / 2, 1e-9);
}

/** The box around points (x, y, z each); `null` for none. */
export function boxOfPoints(points: ArrayLike<number>): Box | null {
  if (points.length < 3) {
    return null;
  }
  const box: Box = {
    min: [Infinity, Infinity, Infinity],
    max: [-Infinity, -Infinity, -Infinity],
  };
  for (let i = 0; i + 2 < points.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const v = points[i + k] as number;
      box.min[k] = Math.min(box.min[k] as number, v);
      box.max[k] = Math.max(box.max[k] as number, v);
    }
  }
  return box;
}

export function union(a: Box | null, b: Box | null): Box | null {
  if (!a || !b) {
    return a ?? b;
  }
  return {
    min: [0, 1, 2].map((k) => Math.min(a.min[k] as number, b.min[k] as number)) as Vec3,
    max: [0, 1, 2].map((k) => Math.max(a.max[k] as number, b.max[k] as number)) as Vec3,
  };
}

/** A point through a matrix of 16 numbers, column by column. */
export function transformPoint(m: ArrayLike<number>, p: ArrayLike<number>, at = 0): Vec3 {
  const [x, y, z] = [p[at] as number, p[at + 1] as number, p[at + 2] as number];
  const row = (r: number) =>
    (m[r] as number) * x +
    (m[r + 4] as number) * y +
    (m[r + 8] as number) * z +
    (m[r + 12] as number);
  return [row(0), row(1), row(2)];
}

/** Where a box stands in radii of its side: camera target and radius. */
export function inRadii(box: Box, side: Box): { target: Vec3; radius: number } {
  const c = centreOf(box);
  const s = centreOf(side);
  const r = radiusOf(side);
  return {
    target: [(c[0] - s[0]) / r, (c[1] - s[1]) / r, (c[2] - s[2]) / r],
    radius: radiusOf(box) / r,
  };
}

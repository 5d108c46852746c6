import { describe, expect, it } from 'vitest';
import { boxOfPoints, inRadii, transformPoint, union } from './bounds';

describe('boxes', () => {
  it('encloses points', () => {
    expect(boxOfPoints([0, 1, 2, -3, 4, 1])).toEqual({ min: [-3, 1, 1], max: [0, 4, 2] });
    expect(boxOfPoints([])).toBeNull();
  });
  it('joins', () => {
    const a = {
      min: [0, 0, 0] as [number, number, number],
      max: [1, 1, 1] as [number, number, number],
    };
    expect(union(a, null)).toBe(a);
    expect(union(a, { min: [-1, 0, 0], max: [0, 2, 0] })).toEqual({
      min: [-1, 0, 0],
      max: [1, 2, 1],
    });
  });
  it('measures in radii of the side', () => {
    const side = boxOfPoints([-1, -1, -1, 1, 1, 1]);
    const part = boxOfPoints([0, 0, 0, 1, 1, 1]);
    if (!side || !part) {
      throw new Error('no box');
    }
    const { target, radius } = inRadii(part, side);
    expect(radius).toBeCloseTo(0.5);
    expect(target[0]).toBeCloseTo(0.5 / Math.sqrt(3));
  });
  it('moves points by columns', () => {
    const m = [0, 1, 0, 0, -1, 0, 0, 0, 0, 0, 1, 0, 5, 6, 7, 1];
    expect(transformPoint(m, [1, 2, 3])).toEqual([3, 7, 10]);
  });
});

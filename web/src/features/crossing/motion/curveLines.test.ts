import { describe, expect, it } from 'vitest';
import { type CurveLine, pathOf, spanOf, valueAt } from './curveLines';

const line = (...values: number[]) => ({ values }) as CurveLine;

describe('curves', () => {
  it('span all lines with room, and never nothing', () => {
    const [low, high] = spanOf([line(0, 10), line(-10, 5)]);
    expect(low).toBeCloseTo(-11.6);
    expect(high).toBeCloseTo(11.6);
    const [flatLow, flatHigh] = spanOf([line(2, 2)]);
    expect(flatHigh).toBeGreaterThan(flatLow);
    expect(spanOf([])).toEqual([0, 1]);
  });
  it('run from left to right with the highest value at the top', () => {
    expect(pathOf([0, 5, 10], [0, 10], 100, 50)).toBe('M0.0 50.0L50.0 25.0L100.0 0.0');
  });
  it('are read between samples and held beyond their ends', () => {
    expect(valueAt([0, 10, 0], 0.25)).toBe(5);
    expect(valueAt([0, 10, 4], 2)).toBe(4);
    expect(valueAt([3], 0.5)).toBe(3);
  });
});

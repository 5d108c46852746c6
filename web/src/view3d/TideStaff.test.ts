import { describe, expect, it } from 'vitest';
import { marksFor } from './TideStaff';

describe('marks of the tide staff', () => {
  it('shows the adult beside things of a person’s size, without collisions', () => {
    const { labels, top } = marksFor(2);
    expect(labels.some((l) => l.adult)).toBe(true);
    const heights = labels.map((l) => l.y).sort((a, b) => a - b);
    for (let i = 1; i < heights.length; i++) {
      expect((heights[i] as number) - (heights[i - 1] as number)).toBeGreaterThan(top * 0.05);
    }
  });
  it('leaves the adult out where it would be lost', () => {
    expect(marksFor(300).labels.some((l) => l.adult)).toBe(false);
    expect(marksFor(0.05).labels.some((l) => l.adult)).toBe(false);
  });
  it('marks a handful of round heights', () => {
    for (const height of [0.004, 0.9, 3.3, 96, 4200]) {
      const { labels, top } = marksFor(height);
      expect(top).toBeGreaterThanOrEqual(height * 0.999);
      expect(labels.length).toBeGreaterThan(2);
      expect(labels.length).toBeLessThan(9);
    }
  });
});

import { describe, expect, it } from 'vitest';
import { sampleAt, samplesAt } from './changing';

describe('meshes that are others over time', () => {
  const seconds = [0, 0.5, 1, 2];

  it('show the sample that has begun', () => {
    expect(sampleAt(seconds, 0)).toBe(0);
    expect(sampleAt(seconds, 0.49)).toBe(0);
    expect(sampleAt(seconds, 0.5)).toBe(1);
    expect(sampleAt(seconds, 1.99)).toBe(2);
  });

  it('hold their ends', () => {
    expect(sampleAt(seconds, -3)).toBe(0);
    expect(sampleAt(seconds, 99)).toBe(3);
    expect(sampleAt([4], 1)).toBe(0);
  });

  it('are not late by the rounding of a moment', () => {
    // Frame 3 of 24 a second, added up.
    expect(sampleAt([0, 1 / 24, 2 / 24, 3 / 24], 1 / 24 + 1 / 24 + 1 / 24)).toBe(3);
    expect(sampleAt([0, 0.1, 0.2, 0.3], 0.1 + 0.2)).toBe(3);
    expect(sampleAt([0, 0.30000000000000004], 0.3)).toBe(1);
  });

  it('are asked for by key and sample', () => {
    const changing = [
      { key: 'a-over-3', nodes: [1], seconds },
      { key: 'a-over-4', nodes: [2], seconds: [0, 1.4] },
    ];
    expect(samplesAt(changing, 1.5)).toEqual(['a-over-3@2', 'a-over-4@1']);
    expect(samplesAt([], 1.5)).toEqual([]);
  });
});

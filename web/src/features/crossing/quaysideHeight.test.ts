import { describe, expect, it } from 'vitest';
import { chosen, fitting, keep, LOWEST, standard } from './quaysideHeight';

function memory(text: string | null) {
  let kept = text;
  return {
    getItem: () => kept,
    setItem: (_: string, value: string) => {
      kept = value;
    },
  };
}

describe('height of the quayside', () => {
  it('fits the stop and leaves the views their room', () => {
    expect(standard('landing', 800)).toBe(368);
    expect(standard('cargo', 800)).toBe(240);
    expect(standard('landing', 500)).toBe(230);
    expect(standard('landing', 200)).toBe(LOWEST);
    expect(standard('handling', 800, true)).toBe(128);
    expect(standard('handling', 500, true)).toBe(LOWEST);
    expect(standard('landing', 800, true)).toBe(368);
    expect(fitting(5000, 800)).toBe(560);
  });
  it('is kept for each stop and forgotten', () => {
    const storage = memory(null);
    keep(storage, 'survey', 410);
    keep(storage, 'proof', 300);
    expect(chosen(storage)).toEqual({ survey: 410, proof: 300 });
    keep(storage, 'survey', null);
    expect(chosen(storage)).toEqual({ proof: 300 });
  });
  it('takes nothing that is no choice', () => {
    expect(chosen(memory('{"survey":"tall","harbour":3,"proof":null}'))).toEqual({});
    expect(chosen(memory('not JSON'))).toEqual({});
  });
});

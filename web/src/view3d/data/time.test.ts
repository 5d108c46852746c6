import { beforeEach, describe, expect, it } from 'vitest';
import { frameOf, useTime } from './time';

const CLIP = { id: 3, startSeconds: 1, endSeconds: 3, framesPerSecond: 10, frames: 21 };

describe('time', () => {
  beforeEach(() => useTime.getState().open(CLIP));

  it('steps by frames and stays inside the clip', () => {
    useTime.getState().step(1);
    expect(useTime.getState().seconds).toBeCloseTo(1.1);
    useTime.getState().step(-5);
    expect(frameOf(useTime.getState())).toBe(0);
    useTime.getState().step(500);
    expect(useTime.getState().seconds).toBe(3);
  });

  it('loops inside its range at its speed', () => {
    useTime.getState().set({ range: [5, 10], speed: 2, playing: true });
    useTime.getState().advance(0.1);
    expect(useTime.getState().seconds).toBeCloseTo(1.5);
    useTime.getState().advance(0.3);
    expect(useTime.getState().seconds).toBeCloseTo(1.6);
  });

  it('stops at the end without a loop', () => {
    useTime.getState().set({ loop: false, playing: true });
    useTime.getState().advance(9);
    expect(useTime.getState()).toMatchObject({ seconds: 3, playing: false });
  });
});

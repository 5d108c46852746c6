import { describe, expect, it } from 'vitest';
import { addFrames, frameAt, matrixAt, pointsAt, seenAt } from './motionBlock';

function block(from: number, count: number, frames: number): ArrayBuffer {
  const head = {
    start: 1,
    end: 1 + (frames - 1) / 10,
    framesPerSecond: 10,
    frames,
    from,
    count,
    nodes: [7],
    morphs: [{ node: 9, count: 1 }],
    shown: [4, 5],
    points: [{ nodes: [3], count: 2 }],
    pointBlock: 0,
  };
  let text = JSON.stringify(head);
  while (text.length % 4) {
    text += ' ';
  }
  const buffer = new ArrayBuffer(4 + text.length + 4 * 21 * count);
  new DataView(buffer).setUint32(0, text.length, true);
  new Uint8Array(buffer, 4, text.length).set(new TextEncoder().encode(text));
  const numbers = new Float32Array(buffer, 4 + text.length);
  for (let f = 0; f < count; f++) {
    // A node that goes along x by one a frame.
    numbers.set([1, 0, 0, 0, 1, 0, 0, 0, 1, from + f, 0, 0], 12 * f);
    numbers[12 * count + f] = (from + f) / 10;
    // One that goes at frame 2, one that comes at frame 3.
    numbers.set([from + f < 2 ? 1 : 0, from + f < 3 ? 0 : 1], 13 * count + 2 * f);
  }
  for (let f = 0; f < count; f++) {
    // Two vertices that rise by one a frame, the second above the first.
    numbers.set([0, from + f, 0, 0, from + f + 100, 0], 15 * count + 6 * f);
  }
  return buffer;
}

describe('motion blocks', () => {
  it('join and are read between frames', () => {
    const motion = addFrames(addFrames(null, block(0, 3, 5)), block(3, 2, 5));
    expect(motion.loaded).toBe(5);
    const { frame, part } = frameAt(motion, 1.25);
    expect(frame).toBe(2);
    expect(part).toBeCloseTo(0.5);
    const out = new Array<number>(16).fill(0);
    matrixAt(motion, 0, frame, part, out);
    expect(out[12]).toBeCloseTo(2.5);
    expect(out[15]).toBe(1);
    expect(motion.weights[4]).toBeCloseTo(0.4);
  });

  it('say who comes and goes, at the frame and not between', () => {
    const motion = addFrames(addFrames(null, block(0, 3, 5)), block(3, 2, 5));
    const at = (seconds: number) => [seenAt(motion, 0, seconds), seenAt(motion, 1, seconds)];
    expect(at(1)).toEqual([true, false]);
    expect(at(1.19)).toEqual([true, false]);
    expect(at(1.2)).toEqual([false, false]);
    expect(at(1.29)).toEqual([false, false]);
    expect(at(1.3)).toEqual([false, true]);
    expect(at(1.4)).toEqual([false, true]);
    expect(at(99)).toEqual([false, true]);
  });

  it('hold their ends', () => {
    const motion = addFrames(null, block(0, 3, 3));
    const out = new Array<number>(16).fill(0);
    for (const [t, x] of [
      [-5, 0],
      [1.2, 2],
      [99, 2],
    ] as const) {
      const { frame, part } = frameAt(motion, t);
      matrixAt(motion, 0, frame, part, out);
      expect(out[12]).toBeCloseTo(x);
    }
  });

  it('put the vertices of a cache between its samples', () => {
    const motion = addFrames(addFrames(null, block(0, 3, 5)), block(3, 2, 5));
    const out = new Float32Array(3);
    // Frame 2.5 lies between the samples of frames 2 and 4.
    pointsAt(motion, 0, 1.25, 1, out);
    expect(out[1]).toBeCloseTo(102.5);
    pointsAt(motion, 0, 99, 0, out);
    expect(out[1]).toBeCloseTo(4);
  });
});

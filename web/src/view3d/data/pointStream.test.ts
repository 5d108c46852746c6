import { describe, expect, it, vi } from 'vitest';
import { decodePoints, PointStream, streamedPoints } from './pointStream';

/** Frames of one cache of two vertices in a box of 65,535 by 6,553.5; both rise by 100 a frame. */
async function block(from: number, count: number): Promise<ArrayBuffer> {
  const packed: Uint8Array[] = [];
  for (let f = 0; f < count; f++) {
    const own = [0, 100 * (from + f), 0, 65_000, 100 * (from + f) + 300, 0];
    const steps = f === 0 ? own : [0, 100, 0, 0, 100, 0];
    const planes = [...steps.map((s) => s & 255), ...steps.map((s) => (s >> 8) & 255)];
    const raw = new Blob([new Uint8Array(planes)]).stream();
    packed.push(
      new Uint8Array(
        await new Response(raw.pipeThrough(new CompressionStream('deflate'))).arrayBuffer(),
      ),
    );
  }
  const head = {
    from,
    count,
    bytes: packed.map((p) => p.length),
    caches: [{ count: 2, low: [0, -10, 0], step: [1, 0.1, 0] }],
  };
  let text = JSON.stringify(head);
  while (text.length % 4) {
    text += ' ';
  }
  let place = 4 + text.length;
  const all = new Uint8Array(place + packed.reduce((sum, p) => sum + p.length, 0));
  new DataView(all.buffer).setUint32(0, text.length, true);
  all.set(new TextEncoder().encode(text), 4);
  for (const frame of packed) {
    all.set(frame, place);
    place += frame.length;
  }
  return all.buffer;
}

describe('frames of points that are fetched', () => {
  it('are steps of a box, each frame by what it has more than the one before', async () => {
    const { from, frames } = await decodePoints(await block(3, 4));
    expect(from).toBe(3);
    const [first, second] = frames;
    if (!(first && second)) {
      throw new Error('two frames');
    }
    const out = new Float32Array(3);
    streamedPoints(first, second, 0.5, 0, 1, out);
    expect([...out]).toEqual([65_000, expect.closeTo(-10 + 0.1 * 650, 4), 0]);
  });

  it('come alone when they are waited for, and in blocks after that', async () => {
    const asked: [number, number][] = [];
    const load = async (from: number, count: number) => {
      asked.push([from, count]);
      return block(from, Math.min(count, 40 - from));
    };
    const arrived = vi.fn();
    const stream = new PointStream(load, 40, 8, arrived, () => undefined);
    expect(stream.at(20)).toBeNull();
    await vi.waitFor(() => expect(asked.length).toBeGreaterThan(2));
    expect(asked.slice(0, 3)).toEqual([
      [20, 1],
      [21, 8],
      [29, 8],
    ]);
    await vi.waitFor(() => expect(stream.peek(36)).not.toBeNull());
    expect(stream.at(20)?.steps[4]).toBe(2300);
    expect(stream.error()).toBeCloseTo(Math.hypot(1, 0.1) / 2, 5);
    expect(arrived).toHaveBeenCalled();
  });

  it('tell once when they cannot be fetched', async () => {
    const trouble = vi.fn();
    const stream = new PointStream(
      () => Promise.reject(new Error('gone')),
      10,
      4,
      () => undefined,
      trouble,
    );
    stream.at(0);
    await vi.waitFor(() => expect(trouble).toHaveBeenCalledTimes(1));
    stream.at(1);
    expect(trouble).toHaveBeenCalledTimes(1);
  });
});

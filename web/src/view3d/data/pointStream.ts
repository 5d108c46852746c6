/** Frames of point caches that are fetched when they are shown; see the server's `PointFrames`. */

/** Whole steps of a box, for all caches of a frame one after another: x, y, z of each vertex. */
interface Frame {
  steps: Uint16Array;
  boxes: Box[];
}

interface Box {
  count: number;
  low: [number, number, number];
  step: [number, number, number];
}

interface Header {
  from: number;
  count: number;
  /** How many bytes each frame has. */
  bytes: number[];
  caches: Box[];
}

/** Gives a block: frames from one on. */
export type LoadPoints = (from: number, count: number) => Promise<ArrayBuffer>;

/** What is kept of frames that were shown. */
const MOST_BYTES = 192 << 20;

async function inflated(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array> {
  const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream('deflate'));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** Takes a block apart. */
export async function decodePoints(
  buffer: ArrayBuffer,
): Promise<{ from: number; frames: Frame[] }> {
  const length = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))) as Header;
  const width = 3 * head.caches.reduce((sum, c) => sum + c.count, 0);
  const frames: Frame[] = [];
  let place = 4 + length;
  const unpacked = await Promise.all(
    head.bytes.map((size) => {
      place += size;
      return inflated(new Uint8Array(buffer, place - size, size));
    }),
  );
  for (const bytes of unpacked) {
    const steps = new Uint16Array(width);
    const before = frames[frames.length - 1]?.steps;
    let at = 0;
    let from = 0;
    for (const { count } of head.caches) {
      const numbers = 3 * count;
      for (let i = 0; i < numbers; i++) {
        const more = (bytes[at + i] as number) | ((bytes[at + numbers + i] as number) << 8);
        // The array keeps the lower 16 bits, as it should.
        steps[from + i] = more + (before ? (before[from + i] as number) : 0);
      }
      at += 2 * numbers;
      from += numbers;
    }
    frames.push({ steps, boxes: head.caches });
  }
  return { from: head.from, frames };
}

/** Holds some frames, and fetches those that are asked for: the last that was asked for first. */
export class PointStream {
  private readonly held = new Map<number, Frame>();
  private wanted = 0;
  private busy = false;
  private failed: Error | null = null;

  /**
   * @param block how many frames are best asked for at once
   * @param arrived is told when frames are here
   * @param trouble is told once when they cannot be fetched
   */
  constructor(
    private readonly load: LoadPoints,
    private readonly frames: number,
    private readonly block: number,
    private readonly arrived: () => void,
    private readonly trouble: (e: Error) => void,
  ) {}

  /** A frame if it is here; else it is fetched, and those after it. */
  at(frame: number): Frame | null {
    this.wanted = frame;
    const here = this.held.get(frame);
    if (here) {
      // What was shown last is thrown away last.
      this.held.delete(frame);
      this.held.set(frame, here);
    }
    void this.fetch();
    return here ?? null;
  }

  /** A frame if it is here; nothing is fetched for it. */
  peek(frame: number): Frame | null {
    return this.held.get(frame) ?? null;
  }

  /** How far what is drawn may be off, in the mesh's units: half a step of the coarsest box. */
  error(): number {
    let most = 0;
    for (const { boxes } of this.held.values()) {
      for (const { step } of boxes) {
        most = Math.max(most, Math.hypot(...step) / 2);
      }
    }
    return most;
  }

  /** The first of the frames that come next and are not here, −1 for none. */
  private missing(): number {
    for (let f = this.wanted; f < Math.min(this.frames, this.wanted + 2 * this.block); f++) {
      if (!this.held.has(f)) {
        return f;
      }
    }
    return -1;
  }

  private async fetch() {
    if (this.busy || this.failed) {
      return;
    }
    this.busy = true;
    try {
      for (let next = this.missing(); next >= 0; next = this.missing()) {
        // A frame that is waited for comes alone, so that it is here soon.
        const alone = next === this.wanted;
        const { from, frames } = await decodePoints(await this.load(next, alone ? 1 : this.block));
        for (const [i, frame] of frames.entries()) {
          this.held.set(from + i, frame);
        }
        this.forget();
        this.arrived();
      }
    } catch (e) {
      this.failed = e as Error;
      this.trouble(this.failed);
    } finally {
      this.busy = false;
    }
  }

  private forget() {
    let bytes = 0;
    for (const { steps } of this.held.values()) {
      bytes += steps.byteLength;
    }
    for (const [frame, { steps }] of this.held) {
      const soon = frame >= this.wanted && frame < this.wanted + 2 * this.block;
      if (bytes > MOST_BYTES && !soon) {
        this.held.delete(frame);
        bytes -= steps.byteLength;
      }
    }
  }
}

/**
 * Writes vertices of a cache between two frames.
 *
 * @param first vertex of the cache that comes first
 * @param next the frame after, or the same one
 * @param part how far it is to the next
 */
export function streamedPoints(
  frame: Frame,
  next: Frame,
  part: number,
  cache: number,
  first: number,
  out: Float32Array,
) {
  let from = 3 * first;
  for (let c = 0; c < cache; c++) {
    from += 3 * (frame.boxes[c] as Box).count;
  }
  const a = frame.boxes[cache] as Box;
  const b = next.boxes[cache] as Box;
  for (let i = 0; i < out.length; i++) {
    const c = i % 3;
    const start = (a.low[c] as number) + (a.step[c] as number) * (frame.steps[from + i] as number);
    const end = (b.low[c] as number) + (b.step[c] as number) * (next.steps[from + i] as number);
    out[i] = start + part * (end - start);
  }
}

import { type PointStream, streamedPoints } from './pointStream';

/** Frames of a clip as the server evaluated them; see the server's `PreviewMotion`. */
export interface Motion {
  start: number;
  end: number;
  framesPerSecond: number;
  frames: number;
  /** Frames that are here so far, from the first. */
  loaded: number;
  nodes: number[];
  morphs: { node: number; count: number }[];
  /** 12 numbers a frame and node: x, y, z of the four columns. */
  matrices: Float32Array;
  /** Weights of all nodes with morph targets, a frame. */
  weights: Float32Array;
  /** Nodes that come and go. */
  shown: number[];
  /** 1 or 0 for each of them, a frame. */
  seen: Float32Array;
  /** Meshes that a point cache moves: the nodes that show each, and its vertices. */
  points: { nodes: number[]; count: number }[];
  /** 0 where all positions are here; else how many frames of them are best asked for at once. */
  pointBlock: number;
  /** x, y, z of all their vertices, a frame; none where they are fetched. */
  positions: Float32Array;
  /** Fetches positions that are not here. */
  stream?: PointStream;
}

interface Header {
  start: number;
  end: number;
  framesPerSecond: number;
  frames: number;
  from: number;
  count: number;
  nodes: number[];
  morphs: { node: number; count: number }[];
  shown: number[];
  points: { nodes: number[]; count: number }[];
  pointBlock: number;
}

const NUMBERS = 12;

/** Adds a block's frames to a motion, or begins one. */
export function addFrames(motion: Motion | null, buffer: ArrayBuffer): Motion {
  const length = new DataView(buffer).getUint32(0, true);
  const text = new TextDecoder().decode(new Uint8Array(buffer, 4, length));
  const head = JSON.parse(text) as Header;
  const width = NUMBERS * head.nodes.length;
  const weightCount = head.morphs.reduce((sum, m) => sum + m.count, 0);
  const vertices = head.points.reduce((sum, p) => sum + p.count, 0);
  const pointCount = head.pointBlock > 0 ? 0 : 3 * vertices;
  const into = motion ?? {
    ...head,
    loaded: 0,
    matrices: new Float32Array(width * head.frames),
    weights: new Float32Array(weightCount * head.frames),
    seen: new Float32Array(head.shown.length * head.frames),
    positions: new Float32Array(pointCount * head.frames),
  };
  const base = 4 + length;
  into.matrices.set(new Float32Array(buffer, base, width * head.count), width * head.from);
  into.weights.set(
    new Float32Array(buffer, base + 4 * width * head.count, weightCount * head.count),
    weightCount * head.from,
  );
  const shownAt = base + 4 * (width + weightCount) * head.count;
  into.seen.set(
    new Float32Array(buffer, shownAt, head.shown.length * head.count),
    head.shown.length * head.from,
  );
  into.positions.set(
    new Float32Array(buffer, shownAt + 4 * head.shown.length * head.count, pointCount * head.count),
    pointCount * head.from,
  );
  return { ...into, loaded: head.from + head.count };
}

/** Place between frames of a moment: the frame before and how far it is to the next. */
export function frameAt(motion: Motion, seconds: number): { frame: number; part: number } {
  const exact = (seconds - motion.start) * motion.framesPerSecond;
  const last = Math.max(0, motion.loaded - 1);
  const at = Math.max(0, Math.min(last, exact));
  const frame = Math.min(Math.floor(at + 1e-6), Math.max(0, last - 1));
  return { frame, part: Math.max(0, Math.min(1, at - frame)) };
}

/** Whether a node that comes and goes is there: it holds until the next frame. */
export function seenAt(motion: Motion, place: number, seconds: number): boolean {
  const { frame, part } = frameAt(motion, seconds);
  const at = part > 1 - 1e-6 ? frame + 1 : frame;
  return (motion.seen[motion.shown.length * at + place] ?? 1) > 0.5;
}

/** Writes a node's matrix between two frames into 16 numbers, column by column. */
export function matrixAt(
  motion: Motion,
  place: number,
  frame: number,
  part: number,
  out: number[],
): void {
  const width = NUMBERS * motion.nodes.length;
  const a = width * frame + NUMBERS * place;
  const b = Math.min(a + width, a + width * Math.max(0, motion.loaded - 1 - frame));
  for (let column = 0; column < 4; column++) {
    for (let row = 0; row < 3; row++) {
      const k = 3 * column + row;
      const from = motion.matrices[a + k] ?? 0;
      out[4 * column + row] = from + part * ((motion.matrices[b + k] ?? 0) - from);
    }
    out[4 * column + 3] = column === 3 ? 1 : 0;
  }
}

/** Where a cache's vertices begin among the positions of a sample, and how long a sample is. */
function span(motion: Motion, cache: number): { from: number; width: number } {
  let from = 0;
  let width = 0;
  for (const [i, p] of motion.points.entries()) {
    from += i < cache ? 3 * p.count : 0;
    width += 3 * p.count;
  }
  return { from, width };
}

/**
 * Writes vertices of a cache at a moment.
 *
 * @param first vertex of the cache that comes first
 * @returns whether they are here; if not, they are on their way and nothing is written
 */
export function pointsAt(
  motion: Motion,
  cache: number,
  seconds: number,
  first: number,
  out: Float32Array,
): boolean {
  const { frame, part } = frameAt(motion, seconds);
  const last = Math.max(0, motion.loaded - 1);
  const next = Math.min(last, frame + 1);
  if (motion.stream) {
    const whole = part > 1 - 1e-6 ? next : frame;
    const here = motion.stream.at(whole);
    if (here) {
      // Between two frames the earlier one is shown until the later one is here.
      const after = whole === frame && part > 1e-6 ? motion.stream.peek(next) : null;
      streamedPoints(here, after ?? here, after ? part : 0, cache, first, out);
    }
    return here !== null;
  }
  const { from, width } = span(motion, cache);
  const a = width * frame + from + 3 * first;
  const b = width * next + from + 3 * first;
  for (let i = 0; i < out.length; i++) {
    const start = motion.positions[a + i] ?? 0;
    out[i] = start + part * ((motion.positions[b + i] ?? 0) - start);
  }
  return true;
}

import { create } from 'zustand';

export const SPEEDS = [0.25, 0.5, 1, 2] as const;

/** The clip that plays, on both sides at once, and the moment that is shown. */
interface TimeState {
  /** Id of the clip; `null` for the rest pose. */
  clip: number | null;
  start: number;
  end: number;
  framesPerSecond: number;
  frames: number;
  seconds: number;
  playing: boolean;
  loop: boolean;
  speed: number;
  /** First and last frame of the range that plays. */
  range: [number, number];
  open: (clip: ClipTimes | null) => void;
  set: (change: Partial<TimeState>) => void;
  toFrame: (frame: number) => void;
  step: (frames: number) => void;
  /** Goes on by a span of real time. */
  advance: (span: number) => void;
}

export interface ClipTimes {
  id: number;
  startSeconds: number;
  endSeconds: number;
  framesPerSecond: number;
  frames: number;
}

export const useTime = create<TimeState>((set, get) => ({
  clip: null,
  start: 0,
  end: 0,
  framesPerSecond: 30,
  frames: 1,
  seconds: 0,
  playing: false,
  loop: true,
  speed: 1,
  range: [0, 0],
  open: (clip) =>
    set(
      clip
        ? {
            clip: clip.id,
            start: clip.startSeconds,
            end: clip.endSeconds,
            framesPerSecond: clip.framesPerSecond,
            frames: clip.frames,
            seconds: clip.startSeconds,
            range: [0, clip.frames - 1],
          }
        : { clip: null, playing: false, seconds: 0, frames: 1, range: [0, 0] },
    ),
  set: (change) => set(change),
  toFrame: (frame) => {
    const s = get();
    set({ seconds: secondsOf(s, frame) });
  },
  step: (frames) => {
    const s = get();
    set({ playing: false, seconds: secondsOf(s, frameOf(s) + frames) });
  },
  advance: (span) => {
    const s = get();
    const from = secondsOf(s, s.range[0]);
    const to = secondsOf(s, s.range[1]);
    let next = s.seconds + span * s.speed;
    if (next > to) {
      next = s.loop && to > from ? from + ((next - from) % (to - from)) : to;
      if (!s.loop) {
        set({ playing: false });
      }
    }
    set({ seconds: Math.max(from, next) });
  },
}));

type Times = Pick<TimeState, 'start' | 'end' | 'framesPerSecond' | 'frames' | 'seconds'>;

/** The frame that is shown, from 0. */
export function frameOf(s: Times): number {
  return Math.min(s.frames - 1, Math.round((s.seconds - s.start) * s.framesPerSecond));
}

/** The moment of a frame. */
export function secondsOf(s: Times, frame: number): number {
  const held = Math.max(0, Math.min(s.frames - 1, frame));
  return Math.min(s.end, s.start + held / s.framesPerSecond);
}

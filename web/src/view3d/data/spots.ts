import { create } from 'zustand';
import type { Side } from '../viewState';

/** Where the middle of what moves is over time: x, y, z in the view of each side. */
export interface Spots {
  seconds: number[];
  near: number[];
  far: number[];
}

/** Both motions are held on one spot while this is known. */
export const useSpots = create<{ spots: Spots | null }>(() => ({ spots: null }));

/** How far a side is moved at a moment so that its middle stays where it is at first. */
export function heldBack(spots: Spots | null, side: Side, seconds: number): number[] {
  const last = (spots?.seconds.length ?? 0) - 1;
  if (!spots || last < 1) {
    return [0, 0, 0];
  }
  const start = spots.seconds[0] ?? 0;
  const length = (spots.seconds[last] ?? 0) - start;
  const exact = length > 0 ? ((seconds - start) / length) * last : 0;
  const at = Math.max(0, Math.min(last, exact));
  const low = Math.min(last - 1, Math.floor(at));
  const all = spots[side];
  return [0, 1, 2].map((axis) => {
    const before = all[3 * low + axis] ?? 0;
    const after = all[3 * low + 3 + axis] ?? before;
    return (all[axis] ?? 0) - (before + (at - low) * (after - before));
  });
}

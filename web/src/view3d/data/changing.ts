import type { SideView } from '../../api/client';

/** Room for the rounding of a moment. */
const SOON = 1e-6;

/** The sample that shows at a moment: the last that has begun, the first before that. */
export function sampleAt(seconds: number[], moment: number): number {
  let low = 0;
  let high = seconds.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >>> 1;
    if ((seconds[middle] as number) <= moment + SOON) {
      low = middle;
    } else {
      high = middle - 1;
    }
  }
  return low;
}

/** Keys of the meshes that show at a moment. */
export function samplesAt(changing: SideView['changing'], moment: number): string[] {
  return changing.map((c) => `${c.key}@${sampleAt(c.seconds, moment)}`);
}

import type { ReactNode } from 'react';
import { useTime } from '../../../view3d/data/time';

export const WIDTH = 1000;
export const HEIGHT = 100;

/** Where a moment is along a plot of the clip. */
export function xOf(seconds: number, start: number, end: number): number {
  return end > start ? (WIDTH * (seconds - start)) / (end - start) : 0;
}

/** Lines over the clip with the moment that is shown; a click goes to a moment. */
export function Plot({ label, children }: { label: string; children: ReactNode }) {
  const { seconds, start, end, set } = useTime();
  const x = xOf(seconds, start, end);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={label}
      onPointerDown={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        const to = start + ((e.clientX - box.left) / box.width) * (end - start);
        set({ playing: false, seconds: Math.max(start, Math.min(end, to)) });
      }}
    >
      {children}
      <line className="now" x1={x} x2={x} y1={0} y2={HEIGHT} />
    </svg>
  );
}

import type { PreviewCurves } from '../../../api/client';

export type CurveLine = PreviewCurves['lines'][number];

/** What moves, in the order in which it is offered. */
export const GROUPS: { id: string; label: string }[] = [
  { id: 'place', label: 'Place' },
  { id: 'turn', label: 'Turn' },
  { id: 'size', label: 'Size' },
  { id: 'weight', label: 'Morphs' },
  { id: 'other', label: 'Other' },
];

/** Lowest and highest value of some lines, with room above and below; never without height. */
export function spanOf(lines: CurveLine[]): [number, number] {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const line of lines) {
    for (const v of line.values) {
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
  }
  if (!(high >= low)) {
    return [0, 1];
  }
  const room = 0.08 * (high - low) || Math.max(1e-6, 0.1 * Math.abs(high));
  return [low - room, high + room];
}

/** A line as an SVG path in a box of the given size; the highest value is at the top. */
export function pathOf(
  values: number[],
  [low, high]: [number, number],
  width: number,
  height: number,
): string {
  const step = width / Math.max(1, values.length - 1);
  return values
    .map((v, i) => {
      const y = height * (1 - (v - low) / (high - low));
      return `${i === 0 ? 'M' : 'L'}${(i * step).toFixed(1)} ${y.toFixed(1)}`;
    })
    .join('');
}

/** The value at a part of the way from start to end, between samples on a line. */
export function valueAt(values: number[], part: number): number {
  const at = Math.max(0, Math.min(1, part)) * (values.length - 1);
  const i = Math.min(values.length - 1, Math.floor(at));
  const a = values[i] ?? 0;
  const b = values[Math.min(values.length - 1, i + 1)] ?? a;
  return a + (at - i) * (b - a);
}

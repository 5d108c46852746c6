import type { FormatView } from '../../api/client';

/** Formats of point caches, which belong to a scene of their name. */
const CACHES = ['mdd', 'pc2'];

/** Endings of the scene files and of the point caches that are read. */
export function endings(formats: FormatView[]) {
  const of = (cache: boolean) =>
    formats.filter((f) => f.reads && CACHES.includes(f.key) === cache).flatMap((f) => f.extensions);
  return { scenes: of(false), caches: of(true) };
}

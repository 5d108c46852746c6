import type { FormatView } from '../../api/client';

/** Endings of the scene files and of the point caches that are read. */
export function endings(formats: FormatView[]) {
  const of = (cache: boolean) =>
    formats.filter((f) => f.reads && f.cache === cache).flatMap((f) => f.extensions);
  return { scenes: of(false), caches: of(true) };
}

import { useEffect, useMemo, useState } from 'react';
import { getBytes, type SideView } from '../api/client';
import { type Box, union } from './data/bounds';
import { type Part, readBlocks, readFaceSets, readPieces } from './data/meshBlock';

/** What is fetched for meshes beside their geometry, for shadings that need it. */
export type Extra = 'none' | 'pieces' | 'facesets';

const AT_ONCE = 60;
const MOST_KEPT = 2000;
/** Of meshes that are others over time: a few seconds of them. */
const MOST_SAMPLES = 96;
const cache = new Map<string, Part[]>();
const withExtra: Record<Extra, Set<string>> = {
  none: new Set(),
  pieces: new Set(),
  facesets: new Set(),
};
const underWay = new Map<string, Promise<void>>();

async function load(crossingId: string, keys: string[], extra: Extra): Promise<void> {
  const from = (kind: string, some: string[]) =>
    getBytes(`/api/crossings/${crossingId}/${kind}?keys=${some.map(encodeURIComponent).join(',')}`);
  const unknown = keys.filter((k) => !cache.has(k));
  if (unknown.length > 0) {
    for (const [i, parts] of readBlocks(await from('meshes', unknown), unknown.length).entries()) {
      cache.set(unknown[i] as string, parts);
    }
  }
  if (extra !== 'none') {
    const read = extra === 'pieces' ? readPieces : readFaceSets;
    read(
      await from(extra, keys),
      keys.map((k) => cache.get(k) ?? []),
    );
    for (const key of keys) {
      withExtra[extra].add(key);
    }
  }
  for (const key of cache.keys()) {
    if (cache.size <= MOST_KEPT) {
      break;
    }
    forget(key);
  }
}

function forget(key: string) {
  for (const part of cache.get(key) ?? []) {
    part.geometry.dispose();
    part.sets?.dispose();
  }
  cache.delete(key);
  withExtra.pieces.delete(key);
  withExtra.facesets.delete(key);
}

/** Fetches samples of meshes that are others over time; those shown longest ago are let go. */
export async function fetchMeshes(crossingId: string, keys: string[]): Promise<void> {
  await load(crossingId, keys, 'none');
  for (const key of keys) {
    const parts = cache.get(key);
    if (parts) {
      // Newest last.
      cache.delete(key);
      cache.set(key, parts);
    }
  }
  const samples = [...cache.keys()].filter((k) => k.includes('@'));
  for (const key of samples.slice(0, Math.max(0, samples.length - MOST_SAMPLES))) {
    forget(key);
  }
}

export interface Meshes {
  parts: Map<string, Part[]>;
  ready: boolean;
  error: string | null;
}

/**
 * Fetches the meshes a side names; each is fetched once and shared by both views. Pieces and face
 * sets that colour them are fetched when they are wanted.
 */
export function useMeshes(crossingId: string, side: SideView | undefined, extra: Extra): Meshes {
  const [version, setVersion] = useState(0);
  const [error, setError] = useState<string | null>(null);
  const keys = useMemo(() => {
    const unique = new Set<string>();
    for (const node of side?.nodes ?? []) {
      if (node.mesh) {
        unique.add(node.mesh);
      }
    }
    return [...unique];
  }, [side]);
  useEffect(() => {
    let live = true;
    const mark = (key: string) => `${key}/${extra}`;
    const missing = keys.filter(
      (k) =>
        (!cache.has(k) || (extra !== 'none' && !withExtra[extra].has(k))) && !underWay.has(mark(k)),
    );
    for (let i = 0; i < missing.length; i += AT_ONCE) {
      const some = missing.slice(i, i + AT_ONCE);
      const work = load(crossingId, some, extra).finally(() => {
        for (const key of some) {
          underWay.delete(mark(key));
        }
      });
      for (const key of some) {
        underWay.set(mark(key), work);
      }
    }
    const waits = keys.flatMap((k) => underWay.get(mark(k)) ?? []);
    if (waits.length === 0) {
      // All are there already: nothing to draw anew.
      return;
    }
    Promise.all(new Set(waits)).then(
      () => live && setVersion((v) => v + 1),
      (e: Error) => live && setError(e.message),
    );
    return () => {
      live = false;
    };
  }, [crossingId, keys, extra]);
  return useMemo(() => {
    const parts = new Map<string, Part[]>();
    for (const key of keys) {
      const known = cache.get(key);
      if (known) {
        parts.set(key, known);
      }
    }
    return { parts, ready: parts.size === keys.length && side !== undefined, error };
  }, [keys, version, error, side]);
}

/** The box of a fetched mesh in its own space. */
export function meshBox(key: string): Box | null {
  let box: Box | null = null;
  for (const part of cache.get(key) ?? []) {
    part.geometry.computeBoundingBox();
    const b = part.geometry.boundingBox;
    if (b) {
      box = union(box, { min: b.min.toArray(), max: b.max.toArray() });
    }
  }
  return box;
}

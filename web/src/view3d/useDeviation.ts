import { useEffect, useState } from 'react';
import { BufferAttribute, BufferGeometry } from 'three';
import { getBytes, type SideView } from '../api/client';
import { type Part, readNumbers } from './data/meshBlock';

const AT_ONCE = 40;

/** Geometries of each part's node with the distance of every vertex to the other state. */
export interface Deviations {
  byNode: Map<number, BufferGeometry[]>;
  /** The largest distance in metres. */
  most: number;
  ready: boolean;
}

const NONE: Deviations = { byNode: new Map(), most: 0, ready: false };

interface Ask {
  crossingId: string;
  side: SideView | undefined;
  parts: Map<string, Part[]>;
  /** The state that the side shows, and the one it is held against. */
  shown: string;
  against: string;
  sameSpot: boolean;
  wanted: boolean;
}

/** Fetches how far a side's parts lie from another state; nothing while it is not wanted. */
export function useDeviation(ask: Ask): Deviations {
  const { crossingId, side, parts, shown, against, sameSpot, wanted } = ask;
  const [result, setResult] = useState<Deviations>(NONE);
  useEffect(() => {
    if (!wanted || !side) {
      setResult(NONE);
      return;
    }
    let live = true;
    const nodes = side.nodes.filter((n) => n.mesh && (parts.get(n.mesh)?.length ?? 0) > 0);
    const collect = async () => {
      const byNode = new Map<number, BufferGeometry[]>();
      let most = 0;
      for (let i = 0; i < nodes.length; i += AT_ONCE) {
        const some = nodes.slice(i, i + AT_ONCE);
        const query = new URLSearchParams({
          a: against,
          b: shown,
          parts: some.map((n) => n.id).join(','),
          sameSpot: String(sameSpot),
        });
        const bytes = await getBytes(`/api/crossings/${crossingId}/deviation?${query}`);
        for (const [k, numbers] of readNumbers(bytes, some.length).entries()) {
          const node = some[k];
          if (node?.mesh && numbers) {
            byNode.set(node.id, coloured(parts.get(node.mesh) ?? [], numbers));
            for (const n of numbers) {
              most = Number.isFinite(n) ? Math.max(most, n) : most;
            }
          }
        }
      }
      return { byNode, most, ready: true };
    };
    collect().then(
      (found) => live && setResult(found),
      () => live && setResult({ ...NONE, ready: true }),
    );
    return () => {
      live = false;
    };
  }, [crossingId, side, parts, shown, against, sameSpot, wanted]);
  return result;
}

/** The parts' geometries with one more attribute; all else is shared. */
function coloured(parts: Part[], numbers: Float32Array): BufferGeometry[] {
  let at = 0;
  return parts.map(({ kind, geometry }) => {
    if (kind !== 'triangles') {
      return geometry;
    }
    const own = new BufferGeometry();
    for (const [name, attribute] of Object.entries(geometry.attributes)) {
      own.setAttribute(name, attribute);
    }
    own.morphAttributes = geometry.morphAttributes;
    own.morphTargetsRelative = geometry.morphTargetsRelative;
    own.setIndex(geometry.index);
    const vertices = geometry.getAttribute('position').count;
    own.setAttribute('deviation', new BufferAttribute(numbers.subarray(at, at + vertices), 1));
    at += vertices;
    return own;
  });
}

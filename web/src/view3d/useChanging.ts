import { useEffect, useMemo, useRef, useState } from 'react';
import type { SideView } from '../api/client';
import { samplesAt } from './data/changing';
import { useTime } from './data/time';
import { fetchMeshes } from './useMeshes';

/**
 * The side as it is at the moment that is shown: nodes whose mesh is another one over time name that
 * of the sample. A sample is shown when it is here; till then the one before stays.
 */
export function useChanging(crossingId: string, side: SideView | undefined): SideView | undefined {
  const wanted = useTime((s) =>
    side && s.clip !== null ? samplesAt(side.changing, s.seconds).join(' ') : '',
  );
  const [shown, setShown] = useState('');
  const next = useRef('');
  const busy = useRef(false);
  useEffect(() => {
    next.current = wanted;
    if (busy.current) {
      return;
    }
    busy.current = true;
    // While one is fetched others may be asked for: only the last of them counts.
    const go = async () => {
      let done: string | null = null;
      while (done !== next.current) {
        done = next.current;
        if (done !== '') {
          await fetchMeshes(crossingId, done.split(' '));
        }
        setShown(done);
      }
    };
    go()
      .catch(() => undefined)
      .finally(() => {
        busy.current = false;
      });
  }, [crossingId, wanted]);
  return useMemo(() => {
    if (!side || side.changing.length === 0 || shown === '') {
      return side;
    }
    const keys = new Map(shown.split(' ').map((k) => [k.slice(0, k.lastIndexOf('@')), k]));
    const byNode = new Map(side.changing.flatMap((c) => c.nodes.map((n) => [n, keys.get(c.key)])));
    return {
      ...side,
      nodes: side.nodes.map((n) => ({ ...n, mesh: byNode.get(n.id) ?? n.mesh })),
    };
  }, [side, shown]);
}

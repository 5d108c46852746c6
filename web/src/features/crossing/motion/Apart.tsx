import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Form } from 'react-bootstrap';
import type { SideView } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { metres } from '../../../shared/format';
import { useSpots } from '../../../view3d/data/spots';
import { useTime } from '../../../view3d/data/time';
import { useView } from '../../../view3d/viewState';
import { pathOf, spanOf, valueAt } from './curveLines';
import { HEIGHT, Plot, WIDTH } from './Plot';

interface Props {
  id: string;
  nodes: SideView['nodes'];
  revision: number;
}

/** How far the two views' motions lie apart over the clip, vertex by vertex. */
export function Apart({ id, nodes, revision }: Props) {
  const { clip, seconds, start, end, set: setTime } = useTime();
  const states = useView((s) => s.states);
  const sameSpot = useView((s) => s.sameSpot);
  const selected = useView((s) => s.selected);
  const set = useView((s) => s.set);
  const [starts, setStarts] = useState(false);
  const one = selected.length === 1 ? nodes.find((n) => n.id === selected[0]) : undefined;
  const only = one?.mesh ? one : undefined;
  const apart = useQuery({
    ...queries.apart(
      id,
      { a: states.near, b: states.far, clip: clip ?? 0, sameSpot, starts, node: only?.id ?? -1 },
      revision,
    ),
    enabled: clip !== null,
    placeholderData: (before) => before,
  });
  const data = apart.data;

  // Held on one spot, both views stay where they were at first.
  useEffect(() => {
    const spots =
      sameSpot && data ? { seconds: data.seconds, near: data.spots, far: data.otherSpots } : null;
    useSpots.setState({ spots });
    return () => useSpots.setState({ spots: null });
  }, [sameSpot, data]);

  if (clip === null) {
    return (
      <section className="curves curves-none">
        Choose a clip to see how far both motions lie apart.
      </section>
    );
  }
  const part = end > start ? (seconds - start) / (end - start) : 0;
  const most = data?.most ?? [];
  const mean = data?.mean ?? [];
  const [, high] = spanOf([{ values: most } as Parameters<typeof spanOf>[0][number]]);
  const span: [number, number] = [0, Math.max(high, 1e-9)];
  const worst = data?.parts[0];
  const nothing = data && data.parts.length === 0;
  return (
    <section className="curves" aria-label="Apart">
      <div className="curves-side">
        <b className="text-truncate">{only ? only.name : 'All parts'}</b>
        <Form.Check
          type="checkbox"
          id="apart-spot"
          label="Roots on one spot"
          title="Both middles are put on one spot at each moment, here and in the views"
          checked={sameSpot}
          onChange={(e) => set({ sameSpot: e.target.checked })}
        />
        <Form.Check
          type="checkbox"
          id="apart-starts"
          label="Start together"
          title="Counts from the start of each motion, whatever its seconds"
          checked={starts}
          onChange={(e) => setStarts(e.target.checked)}
        />
        <span className="quiet">left view against right</span>
      </div>
      <div className="curves-plot">
        <Plot label="How far both motions lie apart over the clip">
          <path
            d={pathOf(mean, span, WIDTH, HEIGHT)}
            fill="none"
            stroke="var(--teal)"
            strokeWidth={1.4}
            strokeDasharray="7 4"
            vectorEffect="non-scaling-stroke"
          />
          <path
            d={pathOf(most, span, WIDTH, HEIGHT)}
            fill="none"
            stroke="var(--loss)"
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
        </Plot>
        <span className="high">{metres(span[1])}</span>
        <span className="low">0</span>
      </div>
      <dl className="curves-values">
        {apart.error ? (
          <div className="loss">{apart.error.message}</div>
        ) : !data ? (
          <div>Comparing …</div>
        ) : nothing ? (
          <div>
            No part is in both views with as many vertices
            {data.left > 0 && ` (${data.left} left out)`}.
          </div>
        ) : (
          <>
            <div>
              <dt style={{ color: 'var(--loss)' }}>farthest</dt>
              <dd>{metres(valueAt(most, part))}</dd>
            </div>
            <div>
              <dt style={{ color: 'var(--teal)' }}>mean</dt>
              <dd>{metres(valueAt(mean, part))}</dd>
            </div>
            {worst && worst.metres === 0 && <div>Both motions are the same.</div>}
            {worst && worst.metres > 0 && (
              <div>
                <dt>
                  <Button
                    variant="link"
                    className="p-0 text-decoration-underline"
                    title={`Go to ${worst.seconds.toFixed(2)} s and select ${worst.name}`}
                    onClick={() => {
                      setTime({ playing: false, seconds: worst.seconds });
                      set({ selected: [worst.nodeId], finding: null });
                    }}
                  >
                    {worst.name}
                  </Button>
                </dt>
                <dd>
                  {metres(worst.metres)} at {worst.seconds.toFixed(2)} s
                </dd>
              </div>
            )}
            {data.left > 0 && (
              <div className="quiet">
                {data.left} {data.left === 1 ? 'part is' : 'parts are'} not comparable
              </div>
            )}
          </>
        )}
      </dl>
    </section>
  );
}

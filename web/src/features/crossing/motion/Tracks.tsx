import { useQuery } from '@tanstack/react-query';
import { queries } from '../../../api/queries';
import { useTime } from '../../../view3d/data/time';
import { useView } from '../../../view3d/viewState';
import { HEIGHT, Plot, WIDTH, xOf } from './Plot';

/** What moves which part, with its keys and samples along the clip. */
export function Tracks({ id, revision }: { id: string; revision: number }) {
  const { clip, start, end } = useTime();
  const state = useView((s) => s.states.far);
  const selected = useView((s) => s.selected);
  const set = useView((s) => s.set);
  const tracks = useQuery({
    ...queries.tracks(id, state, clip ?? 0, revision),
    enabled: clip !== null,
  });
  if (clip === null) {
    return <section className="curves curves-none">Choose a clip to see what it moves.</section>;
  }
  const rows = tracks.data?.rows ?? [];
  return (
    <section className="curves tracks" aria-label="Tracks">
      {tracks.isSuccess && rows.length === 0 && (
        <p className="quiet m-0">Nothing moves in this clip on the far side.</p>
      )}
      {tracks.error && <p className="loss m-0">{tracks.error.message}</p>}
      {rows.map((row) => (
        <div key={`${row.nodeId} ${row.what}`} data-chosen={selected.includes(row.nodeId)}>
          <button
            type="button"
            className="text-truncate"
            title={`Select ${row.name}`}
            onClick={() => set({ selected: [row.nodeId], finding: null })}
          >
            {row.name}
          </button>
          <span className="text-truncate quiet" title={row.detail}>
            {row.what === 'keys' ? row.detail : `${row.what} · ${row.detail}`}
          </span>
          <Plot label={`${row.name}: ${row.what} over the clip`}>
            <rect
              x={xOf(row.start, start, end)}
              width={Math.max(2, xOf(row.end, start, end) - xOf(row.start, start, end))}
              y={HEIGHT * 0.3}
              height={HEIGHT * 0.4}
            />
            {row.marks.map((t) => {
              const x = xOf(t, start, end);
              return x >= -1 && x <= WIDTH + 1 ? (
                <line key={t} className="key" x1={x} x2={x} y1={HEIGHT * 0.2} y2={HEIGHT * 0.8} />
              ) : null;
            })}
          </Plot>
          <span className="figures">
            {row.start.toFixed(2)}–{row.end.toFixed(2)} s ·{' '}
            {row.rate > 0
              ? `${row.count} samples, ${Number(row.rate.toFixed(2))}/s`
              : `${row.count} keys`}
          </span>
        </div>
      ))}
      {(tracks.data?.left ?? 0) > 0 && (
        <p className="quiet m-0">and {tracks.data?.left} more parts that move</p>
      )}
    </section>
  );
}

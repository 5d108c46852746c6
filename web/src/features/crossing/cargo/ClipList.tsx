import type { SideView } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { count } from '../../../shared/format';
import { useTime } from '../../../view3d/data/time';

/** The clips with their figures; a click opens one on the timeline. */
export function ClipList({ clips }: { clips: SideView['clips'] }) {
  const now = useTime((s) => s.clip);
  const open = useTime((s) => s.open);
  return (
    <section aria-label="Clips">
      <h3 className="caps">Clips</h3>
      <ul className="clip-list">
        {clips.map((c) => (
          <li key={c.id} data-open={now === c.id}>
            <Button variant="link" onClick={() => open(c)}>
              {c.name || '(no name)'}
            </Button>
            <span>
              {(c.endSeconds - c.startSeconds).toFixed(2)} s · {count(c.frames)} frames at{' '}
              {Number(c.framesPerSecond.toFixed(2))}/s ·{' '}
              {c.cache
                ? 'point cache'
                : `${count(c.tracks)} ${c.tracks === 1 ? 'track' : 'tracks'}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

import { plain } from '../../shared/format';
import { type Side, useView } from '../../view3d/viewState';

/** What was picked last: its numbers, to read and to copy. */
export function PickNote({ which }: { which: Side }) {
  const mode = useView((s) => s.pickMode);
  const picks = useView((s) => s.picks).filter((p) => p.side === which);
  const last = picks.at(-1);
  const chosen = useView((s) => s.selected.length);
  if (mode === 'pivot' && which === 'far') {
    return (
      <p className="pick-note pick-hint" aria-live="polite">
        {chosen === 0
          ? 'select a part, then click where its pivot goes'
          : 'click a point of the box, a vertex, or a crossing of the ground'}
      </p>
    );
  }
  if (mode === 'part' || mode === 'pivot' || !last) {
    return null;
  }
  const place = last.position.map(plain).join(', ');
  return (
    <p className="pick-note" aria-live="polite">
      {mode === 'face' ? `face ${last.face}` : `vertex ${last.vertex} at ${place}`}
      {picks.length > 1 ? ` · ${picks.length} picked` : ''}
    </p>
  );
}

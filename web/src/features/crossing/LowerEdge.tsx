import { Link } from 'react-router-dom';
import { useView } from '../../view3d/viewState';
import { useFarShore } from './landing/useFarShore';

/** The most useful keys, and what the far shore is. */
export function LowerEdge({ id }: { id: string }) {
  const { shore } = useFarShore(id);
  const selected = useView((s) => s.selected.length);
  return (
    <footer className="lower-edge">
      <span>
        <kbd>F</kbd>find {selected > 0 ? 'selection' : 'everything'} &ensp;
        <kbd>1</kbd>
        <kbd>2</kbd>
        <kbd>3</kbd>
        <kbd>4</kbd>near, both, far, seam &ensp;
        <kbd>X</kbd>shading &ensp;
        <kbd>?</kbd>all keys
      </span>
      <span>
        Far shore:{' '}
        <Link
          className="fw-medium text-reset"
          title="Choose another at the landing"
          to={`/crossings/${id}/landing`}
        >
          {shore?.name ?? '…'}
        </Link>{' '}
        &ensp; Every change is saved
      </span>
    </footer>
  );
}

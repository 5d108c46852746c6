import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';

interface Props {
  type: 'vertex' | 'faces';
  value: string;
  onChange: (value: string) => void;
}

/** A vertex or faces picked on the near side. */
export function PickBox({ type, value, onChange }: Props) {
  const mode = useView((s) => s.pickMode);
  const picks = useView((s) => s.picks).filter((p) => p.side === 'near');
  const set = useView((s) => s.set);
  const wanted = type === 'vertex' ? 'vertex' : 'face';
  const first = picks[0];
  const count = value === '' ? 0 : value.split(',').length;
  const take = () => {
    if (first) {
      const numbers = type === 'vertex' ? [first.vertex] : [...new Set(picks.map((p) => p.face))];
      onChange(`${first.nodeId}:${numbers.join(',')}`);
    }
  };
  const words =
    count === 0
      ? 'nothing picked'
      : type === 'vertex'
        ? `vertex ${value.split(':')[1]}`
        : `${count} ${count === 1 ? 'face' : 'faces'}`;
  return (
    <div className="pick-box">
      <span>{words}</span>
      {mode === wanted && first ? (
        <Button variant="outline-secondary" size="sm" onClick={take}>
          Use {type === 'vertex' ? `vertex ${first.vertex}` : `${picks.length} picked`}
        </Button>
      ) : (
        <Button
          variant="outline-secondary"
          size="sm"
          active={mode === wanted}
          title="Then click it in the near view; with Ctrl more of them"
          onClick={() => set({ pickMode: wanted, picks: [] })}
        >
          {mode === wanted ? 'Click in the view' : 'Pick'}
        </Button>
      )}
    </div>
  );
}

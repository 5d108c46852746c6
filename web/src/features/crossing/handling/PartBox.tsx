import { useQuery } from '@tanstack/react-query';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';

interface Props {
  id: string;
  crossingId: string;
  value: number;
  onChange: (nodeId: number) => void;
}

/** A part: the one that is selected in the tree or the view, or none. */
export function PartBox({ id, crossingId, value, onChange }: Props) {
  const near = useQuery(queries.near(crossingId));
  const selected = useView((s) => s.selected);
  const name = (node: number) => near.data?.nodes.find((n) => n.id === node)?.name;
  const other = selected.length === 1 && selected[0] !== value ? selected[0] : undefined;
  return (
    <div className="pick-box" id={id}>
      <span>{value === 0 ? 'none' : (name(value) ?? `part ${value}`)}</span>
      <Button
        variant="outline-secondary"
        size="sm"
        disabled={other === undefined}
        title="Select a part in the tree or the view first"
        onClick={() => other !== undefined && onChange(other)}
      >
        {other === undefined ? 'Select one' : `Use ${name(other) ?? other}`}
      </Button>
      {value !== 0 && (
        <Button variant="link" size="sm" onClick={() => onChange(0)}>
          None
        </Button>
      )}
    </div>
  );
}

import { Form } from 'react-bootstrap';
import type { Step } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';
import { TextBox } from '../fields/TextBox';

const KINDS = ['mesh', 'group', 'joint', 'camera', 'light', 'kept shape', 'detail levels'];

interface Props {
  step: Step;
  /** The parts that it works on, by the ids that they have now. */
  nodeIds: number[];
  onChange: (step: Step) => void;
}

/** What a step works on: all, picked parts, parts of a name, parts of a kind. */
export function SelectionFields({ step, nodeIds, onChange }: Props) {
  const selected = useView((s) => s.selected);
  const set = useView((s) => s.set);
  const picked = Math.max(nodeIds.length, step.parts.length);
  return (
    <fieldset className="selection">
      <legend>Works on</legend>
      <div className="pick-box">
        {picked === 0 ? (
          <span>{step.pattern || step.ofKind ? 'all that fit' : 'all parts'}</span>
        ) : (
          <button
            type="button"
            className="btn btn-link btn-sm p-0"
            title="Select these parts"
            onClick={() => set({ selected: nodeIds })}
          >
            {picked} picked {picked === 1 ? 'part' : 'parts'}
          </button>
        )}
        <Button
          variant="outline-secondary"
          size="sm"
          disabled={selected.length === 0}
          title="Select parts in the tree or the view first"
          onClick={() => onChange({ ...step, nodeIds: selected, parts: [] })}
        >
          Use selection
        </Button>
        {picked > 0 && (
          <Button
            variant="link"
            size="sm"
            onClick={() => onChange({ ...step, nodeIds: [], parts: [] })}
          >
            All
          </Button>
        )}
      </div>
      <Form.Group className="stone-field" controlId={`${step.id}-pattern`}>
        <Form.Label>Named</Form.Label>
        <TextBox
          id={`${step.id}-pattern`}
          value={step.pattern}
          placeholder="any name"
          help="Like helper_* or wing_?; several apart by commas"
          onChange={(pattern) => onChange({ ...step, pattern })}
        />
      </Form.Group>
      <Form.Group className="stone-field" controlId={`${step.id}-of-kind`}>
        <Form.Label>Kind</Form.Label>
        <Form.Select
          size="sm"
          value={step.ofKind}
          onChange={(e) => onChange({ ...step, ofKind: e.target.value })}
        >
          <option value="">any kind</option>
          {KINDS.map((k) => (
            <option key={k} value={k}>
              {k}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
    </fieldset>
  );
}

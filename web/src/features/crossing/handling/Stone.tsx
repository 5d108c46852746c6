import { Form } from 'react-bootstrap';
import type { HandlingState, Step, StepKind } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { useView } from '../store';
import { SelectionFields } from './SelectionFields';
import { StepForm } from './StepForm';

interface Props {
  crossingId: string;
  state: HandlingState['steps'][number];
  kind: StepKind | undefined;
  dropHere: boolean;
  onHover: (on: boolean) => void;
  onDrag: (on: boolean) => void;
  onOver: () => void;
  onDrop: () => void;
  onMove: (by: number) => void;
  onChange: (step: Step) => void;
  onRemove: () => void;
}

/** One step: its figure, a switch, and its parameters when opened in place. */
export function Stone(props: Props) {
  const { state, kind, onChange } = props;
  const { step, figure, failure } = state;
  const open = useView((s) => s.openStone === step.id);
  const set = useView((s) => s.set);
  const label = kind?.label ?? step.kind;
  const looks = [
    'stone',
    open ? 'stone-open' : '',
    step.enabled ? '' : 'stone-off',
    failure ? 'stone-failed' : '',
    props.dropHere ? 'stone-drop' : '',
  ].join(' ');
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys are on the button inside
    <div
      className={looks}
      data-step={step.kind}
      draggable={!open}
      onDragStart={(e) => {
        e.dataTransfer.effectAllowed = 'move';
        props.onDrag(true);
      }}
      onDragEnd={() => props.onDrag(false)}
      onDragOver={(e) => {
        e.preventDefault();
        props.onOver();
      }}
      onDrop={props.onDrop}
      onMouseEnter={() => props.onHover(true)}
      onMouseLeave={() => props.onHover(false)}
    >
      <div className="stone-head">
        <button
          type="button"
          className="stone-main"
          aria-expanded={open}
          title={kind?.help}
          onClick={() => set({ openStone: open ? null : step.id })}
          onKeyDown={(e) => {
            if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
              e.preventDefault();
              props.onMove(e.key === 'ArrowUp' ? -1 : 1);
            } else if (e.key === 'Delete') {
              props.onRemove();
            }
          }}
        >
          <span className="stone-name">{label}</span>
          <span className={`stone-figure ${failure ? 'loss' : ''}`} title={failure ?? figure}>
            {failure ?? figure}
          </span>
        </button>
        <Form.Check
          type="switch"
          checked={step.enabled}
          aria-label={`${label} in effect`}
          onChange={() => onChange({ ...step, enabled: !step.enabled })}
        />
      </div>
      {open && kind && (
        <div className="stone-form">
          <p>{kind.help}</p>
          <StepForm
            crossingId={props.crossingId}
            kind={kind}
            step={step}
            onChange={(params) => onChange({ ...step, params: params as Step['params'] })}
          />
          {kind.takesSelection && <SelectionFields step={step} onChange={onChange} />}
          <Button variant="outline-secondary" size="sm" onClick={props.onRemove}>
            Remove
          </Button>
        </div>
      )}
    </div>
  );
}

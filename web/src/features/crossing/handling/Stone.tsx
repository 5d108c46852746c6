import { useEffect, useRef } from 'react';
import { Form } from 'react-bootstrap';
import type { HandlingState, PartRef, Step, StepKind } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';
import { SelectionFields } from './SelectionFields';
import { StepForm } from './StepForm';

/** Parameters that hold another part than before are named anew when they are saved. */
function withParams(step: Step, params: Step['params']): Step {
  const paramParts = Object.fromEntries(
    Object.entries(step.paramParts).filter(
      ([field]) => JSON.stringify(params[field]) === JSON.stringify(step.params[field]),
    ),
  );
  return { ...step, params, paramParts };
}

/** The step with another part in the place of one that is not there. */
function withPart(step: Step, gone: PartRef, other: PartRef): Step {
  const swap = (ref: PartRef) => (JSON.stringify(ref) === JSON.stringify(gone) ? other : ref);
  return {
    ...step,
    parts: step.parts.map(swap),
    paramParts: Object.fromEntries(
      Object.entries(step.paramParts).map(([field, ref]) => [field, swap(ref)]),
    ),
  };
}

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
  const stone = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (open) {
      stone.current?.scrollIntoView({ block: 'nearest' });
    }
  }, [open]);
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
      ref={stone}
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
      {state.missing.some((m) => m.likely) && (
        <div className="stone-missing">
          {state.missing
            .filter((m) => m.likely)
            .slice(0, 3)
            .map((m) => (
              <Button
                key={m.label}
                variant="link"
                size="sm"
                className="p-0 text-decoration-underline"
                title={`"${m.label}" is not there any more`}
                onClick={() => onChange(withPart(step, m.part, m.likely as PartRef))}
              >
                Use “{m.likelyLabel}”
              </Button>
            ))}
        </div>
      )}
      {open && kind && (
        <div className="stone-form">
          <p>{kind.help}</p>
          <StepForm
            crossingId={props.crossingId}
            kind={kind}
            step={step}
            onChange={(params) => onChange(withParams(step, params as Step['params']))}
          />
          {kind.takesSelection && (
            <SelectionFields step={step} nodeIds={state.nodeIds} onChange={onChange} />
          )}
          <Button variant="outline-secondary" size="sm" onClick={props.onRemove}>
            Remove
          </Button>
        </div>
      )}
    </div>
  );
}

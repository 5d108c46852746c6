import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { Step, StepKind } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';
import { newStepId, useHandling } from '../useHandling';
import { AddStep } from './AddStep';
import { Stone } from './Stone';
import './handling.css';

const HOVER_MS = 280;

/** The handling between the two sides: steps from top to bottom, like stones in the river. */
export function SteppingStones({ id, ready }: { id: string; ready: boolean }) {
  const { state, change, undo, redo } = useHandling(id, ready);
  const kinds = useQuery(queries.stepKinds());
  const set = useView((s) => s.set);
  const [dragged, setDragged] = useState<string | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const timer = useRef(0);
  const steps = state?.steps ?? [];

  // A step that is undone or removed leaves no room behind that its form took.
  const openStone = useView((s) => s.openStone);
  const stands = steps.some((s) => s.step.id === openStone);
  const stood = useRef<string | null>(null);
  useEffect(() => {
    if (stands) {
      stood.current = openStone;
    } else if (openStone !== null && stood.current === openStone) {
      set({ openStone: null });
    }
  }, [stands, openStone, set]);

  const hover = (after: number | null) => {
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => set({ hoveredStone: after }), HOVER_MS);
  };
  const move = (stepId: string, to: number) =>
    change((list) => {
      const from = list.findIndex((s) => s.id === stepId);
      const moved = list[from];
      if (!moved) {
        return list;
      }
      const rest = list.filter((s) => s.id !== stepId);
      const place = Math.max(0, Math.min(rest.length, from < to ? to - 1 : to));
      return [...rest.slice(0, place), moved, ...rest.slice(place)];
    });
  const add = (kind: StepKind) => {
    const params = Object.fromEntries(kind.fields.map((f) => [f.name, f.standard]));
    const { selected } = useView.getState();
    const step: Step = {
      id: newStepId(),
      kind: kind.kind,
      params: params as Step['params'],
      enabled: true,
      nodeIds: kind.takesSelection ? selected : [],
      pattern: '',
      ofKind: '',
      parts: [],
      paramParts: {},
    };
    change((list) => [...list, step]);
    set({ openStone: kind.fields.length > 0 || kind.takesSelection ? step.id : null });
  };
  return (
    <>
      <div className="d-flex justify-content-between align-items-center">
        <h2 className="caps">Handling</h2>
        <span>
          <Button
            variant="link"
            className="py-0"
            disabled={!state?.canUndo}
            onClick={undo}
            title="Undo (Ctrl Z)"
          >
            Undo
          </Button>{' '}
          <Button
            variant="link"
            className="py-0"
            disabled={!state?.canRedo}
            onClick={redo}
            title="Redo (Ctrl Shift Z)"
          >
            Redo
          </Button>
        </span>
      </div>
      {steps.length === 0 && ready && (
        <p className="quiet small m-0">
          Nothing is changed yet. Steps stand here, from the near side to the far side.
        </p>
      )}
      {steps.map((s, i) => (
        <Stone
          key={s.step.id}
          crossingId={id}
          state={s}
          kind={kinds.data?.find((k) => k.kind === s.step.kind)}
          dropHere={over === i && dragged !== null}
          onHover={(on) => hover(on && i < steps.length - 1 ? i + 1 : null)}
          onDrag={(on) => {
            setDragged(on ? s.step.id : null);
            setOver(null);
          }}
          onOver={() => setOver(i)}
          onDrop={() => dragged && move(dragged, i)}
          onMove={(by) => move(s.step.id, by < 0 ? i - 1 : i + 2)}
          onChange={(step) => change((list) => list.map((x) => (x.id === step.id ? step : x)))}
          onRemove={() => change((list) => list.filter((x) => x.id !== s.step.id))}
        />
      ))}
      <AddStep
        kinds={kinds.data ?? []}
        ready={ready}
        onAdd={add}
        onDrop={() => dragged && move(dragged, steps.length)}
      />
    </>
  );
}

import { useQuery } from '@tanstack/react-query';
import type { HandlingState, StepKind } from '../../api/client';
import { queries } from '../../api/queries';
import { type Side, useView } from '../../view3d/viewState';

/** Every state that can be shown, with its words. */
export function stateChoices(
  handling: HandlingState | undefined,
  kinds: StepKind[],
  named: { id: string; name: string }[],
): { ref: string; label: string }[] {
  const steps = handling?.steps ?? [];
  return [
    { ref: 'near', label: 'Near side' },
    ...steps.slice(0, -1).map((s, i) => ({
      ref: `after:${i + 1}`,
      label: `After ${i + 1}: ${kinds.find((k) => k.kind === s.step.kind)?.label ?? s.step.kind}`,
    })),
    { ref: 'now', label: 'Far side' },
    ...named.map((s) => ({ ref: `named:${s.id}`, label: s.name })),
  ];
}

/** Which state a view shows: any two can stand side by side. */
export function StateChoice({ id, which, title }: { id: string; which: Side; title: string }) {
  const ref = useView((s) => s.states[which]);
  const set = useView((s) => s.set);
  const handling = useQuery(queries.handling(id));
  const kinds = useQuery(queries.stepKinds());
  const named = useQuery(queries.states(id));
  const choices = stateChoices(handling.data, kinds.data ?? [], named.data ?? []);
  return (
    <select
      className="state-choice"
      aria-label={`State in the ${which === 'near' ? 'left' : 'right'} view`}
      title="Which state this view shows: any two can be compared"
      value={choices.some((c) => c.ref === ref) ? ref : which === 'near' ? 'near' : 'now'}
      onChange={(e) =>
        set({ states: { ...useView.getState().states, [which]: e.target.value }, picks: [] })
      }
    >
      {choices.map((c) => (
        <option key={c.ref} value={c.ref}>
          {c.ref === ref && (ref === 'near' || ref === 'now') ? title : c.label}
        </option>
      ))}
    </select>
  );
}

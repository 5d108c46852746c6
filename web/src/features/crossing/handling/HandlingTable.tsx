import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Form, Table } from 'react-bootstrap';
import { useNavigate } from 'react-router-dom';
import type { Step, StepKind } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';
import { isAsked } from '../fields/fieldAsked';
import { QuaysideHead } from '../QuaysideHead';
import { useHandling } from '../useHandling';
import { BindingsTable } from './BindingsTable';
import { NamedStates } from './NamedStates';

/** What a field was told, in words; nothing for one that was left empty. */
function told(field: StepKind['fields'][number], value: unknown, step: Step): string {
  if (value === '' || value === null || value === undefined) {
    return '';
  }
  if (field.type === 'flag') {
    return value === true ? field.label.toLowerCase() : '';
  }
  if (field.type === 'part') {
    const part = step.paramParts[field.name];
    return part ? `${field.label.toLowerCase()} ${part.path}` : '';
  }
  const words = field.options.find((o) => o.value === value)?.label ?? String(value);
  return `${field.label.toLowerCase()} ${words}${field.unit && ` ${field.unit}`}`;
}

/** The steps as a table: what each was told and what it changed; what an open one binds. */
export function HandlingTable({ id }: { id: string }) {
  const { state, change } = useHandling(id, true);
  const openStone = useView((s) => s.openStone);
  const look = state?.steps.find((s) => s.step.id === openStone && s.step.kind === 'putLook');
  return look ? (
    <BindingsTable id={id} step={look.step.id} />
  ) : (
    <StepsTable id={id} state={state} change={change} />
  );
}

type Handled = ReturnType<typeof useHandling>;

function StepsTable({ id, state, change }: Pick<Handled, 'state' | 'change'> & { id: string }) {
  const kinds = useQuery(queries.stepKinds());
  const navigate = useNavigate();
  const set = useView((s) => s.set);
  const steps = state?.steps ?? [];
  const [open, setOpen] = useState<string | null>(null);
  const show = (step: string) => {
    setOpen(step);
    set({ openStone: step });
  };
  return (
    <>
      <QuaysideHead title="Handling">
        <span className="pill pill-plain">
          {steps.filter((s) => s.step.enabled && !s.failure).length} of {steps.length} in effect
        </span>
        <span className="end">
          <Button
            variant="outline-secondary"
            onClick={() => navigate(`/crossings/${id}/landing${window.location.search}`)}
          >
            To the landing
          </Button>
        </span>
      </QuaysideHead>
      <div className="quayside-body">
        <NamedStates id={id} />
        {steps.length === 0 ? (
          <p className="empty-note">
            Steps change the far side, never the cargo. Accept an offer of the survey, or add a step
            in the river between the two views. Steps can be switched off, edited, dragged into
            another order and undone at any time.
          </p>
        ) : (
          <Table hover>
            <thead>
              <tr>
                <th className="num">No.</th>
                <th>Step</th>
                <th>Told</th>
                <th>Changed</th>
                <th>In effect</th>
              </tr>
            </thead>
            <tbody>
              {steps.map((s, i) => {
                const kind = kinds.data?.find((k) => k.kind === s.step.kind);
                const params = s.step.params as Record<string, unknown>;
                return (
                  <tr
                    key={s.step.id}
                    tabIndex={0}
                    onClick={() => show(s.step.id)}
                    onKeyDown={(e) => e.key === 'Enter' && show(s.step.id)}
                  >
                    <td className="num">{i + 1}</td>
                    <td title={kind?.help}>{kind?.label ?? s.step.kind}</td>
                    <td>
                      {(kind?.fields ?? [])
                        .filter((f) => isAsked(f, kind?.fields ?? [], params))
                        .map((f) => told(f, params[f.name] ?? f.standard, s.step))
                        .filter((words) => words !== '')
                        .join(', ') || '—'}
                    </td>
                    <td className={s.failure ? 'loss' : ''}>
                      {s.failure ?? s.figure}
                      {s.notes.length > 0 && (
                        <ul className="step-notes">
                          {s.notes.slice(0, open === s.step.id ? 200 : 3).map((n) => (
                            <li key={`${n.where}${n.message}`}>
                              {n.where} {n.message}
                            </li>
                          ))}
                          {s.notes.length > 3 && open !== s.step.id && (
                            <li>and {s.notes.length - 3} more: open the row</li>
                          )}
                        </ul>
                      )}
                    </td>
                    <td>
                      <Form.Check
                        type="switch"
                        checked={s.step.enabled}
                        aria-label={`Step ${i + 1} in effect`}
                        onClick={(e) => e.stopPropagation()}
                        onChange={() =>
                          change((list) =>
                            list.map((x) =>
                              x.id === s.step.id ? { ...x, enabled: !x.enabled } : x,
                            ),
                          )
                        }
                      />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </Table>
        )}
      </div>
    </>
  );
}

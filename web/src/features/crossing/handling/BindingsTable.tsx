import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Form, Table } from 'react-bootstrap';
import { getJson, type LookRow } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { count } from '../../../shared/format';
import { complain } from '../../../shared/Notices';
import { inkOf } from '../../../view3d/material/inks';
import { useView } from '../../../view3d/viewState';
import { QuaysideHead } from '../QuaysideHead';
import { useHandling } from '../useHandling';

/** Leaves what there is; a material cannot be chosen so, since it has a name. */
const NOTHING = '-';

/** What a choice of the list stands for: what is found, nothing, or a material. */
function chosenOf(row: LookRow): string {
  return !row.hand ? 'found' : row.material === '' ? 'nothing' : `is ${row.material}`;
}

function materialOf(choice: string): string | null {
  return choice === 'found' ? null : choice === 'nothing' ? NOTHING : choice.slice(3);
}

/** Which faces get which material by a step: with reasons, in the colours of the views, to correct. */
export function BindingsTable({ id, step }: { id: string; step: string }) {
  const { state, bind } = useHandling(id, true);
  const revision = state?.revision ?? 0;
  const looks = useQuery({
    ...queries.looks(id, step, revision),
    placeholderData: (before) => before,
  });
  const { shading, pickMode, picks, set } = useView();
  const [marked, setMarked] = useState<number | null>(null);
  const body = useRef<HTMLTableSectionElement>(null);
  const rows = looks.data?.rows ?? [];
  const materials = looks.data?.materials ?? [];
  const pick = picks.at(-1);

  // A click on the surface marks the row of its faces and puts the keyboard on its list.
  useEffect(() => {
    if (!pick) {
      return;
    }
    getJson<number>(`/api/crossings/${id}/looks/${step}/row?node=${pick.nodeId}&face=${pick.face}`)
      .then((row) => {
        setMarked(row < 0 ? null : row);
        const line = body.current?.querySelectorAll('tr')[row];
        line?.scrollIntoView({ block: 'nearest' });
        line?.querySelector('select')?.focus();
      })
      .catch(complain);
  }, [id, step, pick]);

  const bound = rows.filter((r) => r.materialId >= 0).length;
  const apart = shading === 'materials';
  const picking = pickMode === 'face';
  const files = `/api/crossings/${id}/looks/${step}/table`;
  return (
    <>
      <QuaysideHead title="Bindings">
        <span className="pill pill-plain">
          {bound} of {rows.length} bound
        </span>
        <span className="end">
          <Button
            variant="outline-secondary"
            active={apart}
            aria-pressed={apart}
            title="Each material in a colour of its own, in the views and here"
            onClick={() => set({ shading: apart ? 'surface' : 'materials' })}
          >
            Materials apart
          </Button>{' '}
          <Button
            variant="outline-secondary"
            active={picking}
            aria-pressed={picking}
            title="A click on a surface then marks its row here"
            onClick={() => set({ pickMode: picking ? 'part' : 'face', picks: [] })}
          >
            Click the surface
          </Button>{' '}
          <Button variant="outline-secondary" href={`${files}.csv`}>
            CSV
          </Button>{' '}
          <Button variant="outline-secondary" href={`${files}.html`}>
            HTML
          </Button>{' '}
          <Button variant="outline-secondary" onClick={() => set({ openStone: null })}>
            All steps
          </Button>
        </span>
      </QuaysideHead>
      <div className="quayside-body">
        {looks.error ? (
          <p className="empty-note">{looks.error.message}</p>
        ) : (
          <Table hover className="bindings">
            <thead>
              <tr>
                <th>Part</th>
                <th>Set of faces</th>
                <th className="num">Faces</th>
                <th>Material</th>
                <th className="num">Confidence</th>
                <th>Bound</th>
              </tr>
            </thead>
            <tbody ref={body}>
              {rows.map((row, i) => (
                <tr
                  key={`${row.nodeId} ${row.key}`}
                  data-marked={marked === i}
                  onClick={() => set({ selected: [row.nodeId], finding: null })}
                >
                  <td>{row.path}</td>
                  <td>{row.set || <span className="quiet">other faces</span>}</td>
                  <td className="num">{count(row.faces)}</td>
                  <td className="binding">
                    <i
                      className="ink"
                      aria-hidden="true"
                      style={{ background: inkOf(row.materialId) }}
                    />
                    <Form.Select
                      size="sm"
                      aria-label={`Material of ${row.set || 'other faces'} on ${row.path}`}
                      value={chosenOf(row)}
                      onClick={(e) => e.stopPropagation()}
                      onChange={(e) => bind(step, row.key, row.path, materialOf(e.target.value))}
                    >
                      <option value="found">
                        {row.hand
                          ? 'what is found'
                          : `${row.material || 'keeps what it has'} · found`}
                      </option>
                      <option value="nothing">keeps what it has</option>
                      {materials.map((m) => (
                        <option key={m.id} value={`is ${m.name}`}>
                          {m.name}
                        </option>
                      ))}
                    </Form.Select>
                  </td>
                  <td className="num">{Math.round(100 * row.confidence)} %</td>
                  <td className={row.how.startsWith('not') ? 'loss' : ''}>
                    {row.how}
                    {row.how !== 'by hand' && ` · ${row.reasons.join(', ')}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
      </div>
    </>
  );
}

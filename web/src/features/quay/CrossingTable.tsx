import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { CloseButton, Modal, Table } from 'react-bootstrap';
import { Link, useNavigate } from 'react-router-dom';
import { type Crossing, sendJson } from '../../api/client';
import { Button } from '../../shared/Button';
import { when } from '../../shared/format';
import { complain } from '../../shared/Notices';
import { keepOrder } from './order';

const STOPS = 5;

/** One row a crossing; a row opens it. */
export function CrossingTable({ crossings }: { crossings: Crossing[] }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [doomed, setDoomed] = useState<Crossing | null>(null);
  // Rows move up as they are read; a row that moved between press and release would not open.
  const [pointed, setPointed] = useState(false);
  const shown = useRef<string[]>([]);
  const rows = pointed ? keepOrder(shown.current, crossings) : crossings;
  shown.current = rows.map((c) => c.id);
  const remove = (crossing: Crossing) => {
    setDoomed(null);
    sendJson('DELETE', `/api/crossings/${crossing.id}`)
      .then(() => client.invalidateQueries({ queryKey: ['crossings'] }))
      .catch(complain);
  };
  return (
    <>
      <Table
        hover
        onPointerEnter={() => setPointed(true)}
        onPointerLeave={() => setPointed(false)}
        onFocus={() => setPointed(true)}
        onBlur={() => setPointed(false)}
      >
        <thead>
          <tr>
            <th aria-label="Picture" />
            <th>Asset</th>
            <th>From</th>
            <th>To</th>
            <th>Route</th>
            <th>State</th>
            <th className="num">Height</th>
            <th aria-label="Delete" />
          </tr>
        </thead>
        <tbody>
          {rows.map((c) => (
            <tr key={c.id} className="quay-row" onClick={() => navigate(`/crossings/${c.id}`)}>
              <td style={{ width: 92 }}>
                {c.thumbnail ? (
                  <img
                    className="thumb"
                    alt=""
                    src={`/api/crossings/${c.id}/thumbnail?v=${c.thumbnail.slice(0, 8)}`}
                  />
                ) : (
                  <span className="thumb" />
                )}
              </td>
              <td>
                <Link
                  to={`/crossings/${c.id}`}
                  className="text-reset text-decoration-none fw-medium"
                  onClick={(e) => e.stopPropagation()}
                >
                  {c.name}
                </Link>
                <div className="quiet">{when(c.updatedAt)}</div>
              </td>
              <td>
                {c.summary?.from ?? '—'}
                <div className="quiet">
                  {c.summary
                    ? `${c.summary.files} ${c.summary.files === 1 ? 'file' : 'files'}`
                    : ''}
                </div>
              </td>
              <td>
                {c.summary?.landed ?? '—'}
                <div className="quiet">
                  {c.summary?.landed ? (c.summary.landedFrame ?? '') : ''}
                </div>
              </td>
              <td>
                <MiniRoute reached={reached(c)} />
              </td>
              <td>
                <State crossing={c} />
              </td>
              <td className="num">{c.summary?.height ?? '—'}</td>
              <td className="num">
                <CloseButton
                  aria-label={`Delete ${c.name}`}
                  onClick={(e) => {
                    e.stopPropagation();
                    setDoomed(c);
                  }}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <Modal show={doomed !== null} onHide={() => setDoomed(null)} centered>
        <Modal.Body>
          Delete “{doomed?.name}” with its cargo, steps and landings? This cannot be undone.
        </Modal.Body>
        <Modal.Footer>
          <Button variant="outline-secondary" onClick={() => setDoomed(null)}>
            Keep it
          </Button>
          <Button onClick={() => doomed && remove(doomed)}>Delete</Button>
        </Modal.Footer>
      </Modal>
    </>
  );
}

/** How many stops of the route are behind a crossing. */
function reached(c: Crossing): number {
  if (c.state !== 'ready') {
    return c.state === 'empty' ? 0 : 1;
  }
  if (c.summary?.landed) {
    return STOPS;
  }
  return c.history > 0 ? 3 : 2;
}

function MiniRoute({ reached: done }: { reached: number }) {
  return (
    <svg
      className="route-mini"
      width={112}
      height={14}
      role="img"
      aria-label={`${done} of ${STOPS} stops`}
    >
      {Array.from({ length: STOPS - 1 }, (_, i) => (
        <line
          key={i}
          x1={7 + i * 24}
          x2={31 + i * 24}
          y1={7}
          y2={7}
          stroke={i + 1 < done ? 'var(--teal)' : 'var(--rule)'}
          strokeWidth={2}
        />
      ))}
      {Array.from({ length: STOPS }, (_, i) => (
        <circle
          key={i}
          cx={7 + i * 24}
          cy={7}
          r={4.4}
          fill={i < done ? 'var(--teal)' : 'var(--ground)'}
          stroke={i < done ? 'var(--teal)' : 'var(--ink-3)'}
          strokeWidth={1.4}
        />
      ))}
    </svg>
  );
}

function State({ crossing }: { crossing: Crossing }) {
  const s = crossing.summary;
  if (crossing.state === 'failed') {
    return (
      <span className="pill pill-loss" title={crossing.problem ?? ''}>
        could not be read
      </span>
    );
  }
  if (crossing.state !== 'ready' || !s) {
    return (
      <span className="pill pill-plain">{crossing.state === 'empty' ? 'empty' : 'reading'}</span>
    );
  }
  if (s.landed) {
    return s.lost > 0 ? (
      <span className="pill pill-change">proved · {s.lost} lost</span>
    ) : (
      <span className="pill pill-kept">proved · nothing lost</span>
    );
  }
  if (s.toFix > 0) {
    return <span className="pill pill-loss">{s.toFix} to put right</span>;
  }
  return s.toLook > 0 ? (
    <span className="pill pill-change">{s.toLook} to look at</span>
  ) : (
    <span className="pill pill-kept">sound</span>
  );
}

import { useQuery } from '@tanstack/react-query';
import { Fragment, useMemo, useState } from 'react';
import { Form, Table } from 'react-bootstrap';
import type { LedgerRow } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { ApartPictures } from './ApartPictures';
import { Takes } from './Takes';

const MOST_ROWS = 1500;
const MOST_PARTS = 300;
const LOOK = { 'the same': 'kept', within: 'change', differs: 'loss' };

const how = (row: LedgerRow) =>
  row.verdict === 'KEPT' ? 'the same' : row.within ? 'within' : 'differs';

interface Props {
  asked: URLSearchParams;
  /** Changes what is asked. */
  onSet: (change: Record<string, string>) => void;
}

/** The verdict on two assets, what differs, and which part was held against which. */
export function PairFacts({ asked, onSet }: Props) {
  const pair = useQuery(queries.pair(asked.toString()));
  const [all, setAll] = useState(false);
  const [part, setPart] = useState('');
  const rows = useMemo(() => pair.data?.proof.rows ?? [], [pair.data]);
  if (pair.error) {
    return <p className="loss">{pair.error.message}</p>;
  }
  if (!pair.data) {
    return <p className="quiet">Comparing …</p>;
  }
  const { proof, firstParts, secondParts, firstClips, secondClips } = pair.data;
  const differ = proof.changed + proof.lost;
  const shown = rows.filter((r) => all || r.verdict !== 'KEPT');
  const lieApart = rows.some(
    (r) => r.nodeId >= 0 && r.verdict !== 'KEPT' && r.measure?.unit === 'm',
  );
  return (
    <>
      <div className="quay-head">
        <h2 className={differ === 0 ? 'pair-same' : 'loss'}>
          {differ === 0 ? 'The same asset' : `${differ} of ${proof.kept + differ} facts differ`}
        </h2>
        {proof.within > 0 && (
          <span className="quiet">{proof.within} of them within what the shore lets differ</span>
        )}
        <Form.Check
          id="all-facts"
          type="checkbox"
          label="What is the same too"
          checked={all}
          onChange={(e) => setAll(e.target.checked)}
        />
        <span className="ms-auto d-flex gap-2">
          <Button
            variant="outline-secondary"
            href={`/api/pairs/page.html?${asked}`}
            title="Both with the seam between them, as one page that needs no server"
          >
            Page with both
          </Button>
          <Button variant="outline-secondary" href={`/api/pairs/report.html?${asked}`}>
            Report
          </Button>
        </span>
      </div>
      {firstClips.length > 0 && secondClips.length > 0 && (
        <Takes asked={asked} first={firstClips} second={secondClips} onSet={onSet} />
      )}
      {lieApart && (
        <ApartPictures
          asked={asked}
          part={firstParts.includes(part) ? part : ''}
          onAll={() => setPart('')}
        />
      )}
      {shown.length > 0 && <FactTable rows={shown} parts={firstParts} onPart={setPart} />}
      <details className="pair-parts">
        <summary>Which part was held against which</summary>
        <Parts
          rows={rows}
          first={firstParts}
          second={secondParts}
          match={JSON.parse(asked.get('match') || '{}') as Record<string, string>}
          onMatch={(match) =>
            onSet({ match: Object.keys(match).length > 0 ? JSON.stringify(match) : '' })
          }
        />
      </details>
    </>
  );
}

interface FactProps {
  rows: LedgerRow[];
  parts: string[];
  /** Shows where a part lies apart. */
  onPart: (path: string) => void;
}

function FactTable({ rows, parts, onPart }: FactProps) {
  const groups: { name: string; rows: LedgerRow[] }[] = [];
  for (const row of rows.slice(0, MOST_ROWS)) {
    const last = groups.at(-1);
    if (last?.name === row.group) {
      last.rows.push(row);
    } else {
      groups.push({ name: row.group, rows: [row] });
    }
  }
  return (
    <>
      <Table className="pair-table">
        <thead>
          <tr>
            <th>Fact</th>
            <th className="num">First</th>
            <th className="num">Second</th>
            <th className="num">Differs</th>
            <th>What is to be known</th>
          </tr>
        </thead>
        <tbody>
          {groups.map((g, i) => (
            <Fragment key={`${g.name}-${i}`}>
              <tr className="group-row">
                <td colSpan={5}>
                  {g.name}{' '}
                  {parts.includes(g.name) && (
                    <button
                      type="button"
                      className="btn btn-link btn-sm p-0"
                      onClick={() => onPart(g.name)}
                    >
                      where
                    </button>
                  )}
                </td>
              </tr>
              {g.rows.map((row, k) => (
                <tr key={`${row.fact}-${k}`} data-verdict={row.verdict}>
                  <td>{row.fact}</td>
                  <td className="num">{row.far}</td>
                  <td className="num">{row.landed}</td>
                  <td className="num">{row.differs}</td>
                  <td>
                    <span className={`pill pill-${LOOK[how(row)]}`}>{how(row)}</span>{' '}
                    <span className="quiet">{row.note}</span>
                  </td>
                </tr>
              ))}
            </Fragment>
          ))}
        </tbody>
      </Table>
      {rows.length > MOST_ROWS && (
        <p className="quiet">Not all rows are shown: the report has every one.</p>
      )}
    </>
  );
}

interface PartsProps {
  rows: LedgerRow[];
  first: string[];
  second: string[];
  match: Record<string, string>;
  onMatch: (match: Record<string, string>) => void;
}

/** Parts of the first, and what each was held against: correctable by hand. */
function Parts({ rows, first, second, match, onMatch }: PartsProps) {
  const found = new Map(
    rows.filter((r) => r.fact === 'Compared with').map((r) => [r.group, r] as const),
  );
  const held = (path: string) =>
    found.get(path)?.landed ?? (second.includes(path) ? path : 'nothing');
  return (
    <Table>
      <thead>
        <tr>
          <th>First</th>
          <th>Held against</th>
          <th>By hand</th>
        </tr>
      </thead>
      <tbody>
        {first.slice(0, MOST_PARTS).map((path) => (
          <tr key={path}>
            <td>{path}</td>
            <td>
              {held(path)} <span className="quiet">{found.get(path)?.note ?? ''}</span>
            </td>
            <td>
              <Form.Select
                size="sm"
                aria-label={`${path} is, by hand`}
                value={match[path] ?? ''}
                onChange={(e) => {
                  const { [path]: _, ...others } = match;
                  onMatch(e.target.value ? { ...others, [path]: e.target.value } : others);
                }}
              >
                <option value="">as found</option>
                {second.map((other) => (
                  <option key={other} value={other}>
                    {other}
                  </option>
                ))}
              </Form.Select>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

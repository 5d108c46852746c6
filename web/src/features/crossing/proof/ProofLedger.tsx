import { useQuery } from '@tanstack/react-query';
import { Fragment, useMemo, useState } from 'react';
import { Form, Table } from 'react-bootstrap';
import { Link } from 'react-router-dom';
import type { Crossing, LedgerRow } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { bytes } from '../../../shared/format';
import { QuaysideHead } from '../QuaysideHead';
import { useView } from '../store';
import { useFind } from '../useFind';

type Verdict = LedgerRow['verdict'];
const LOOK: Record<Verdict, string> = { KEPT: 'kept', CHANGED: 'change', LOST: 'loss' };
const MOST_ROWS = 1500;

/** Near, far and landed, fact by fact, with the verdict. */
export function ProofLedger({ id, crossing }: { id: string; crossing: Crossing }) {
  const landings = useQuery(queries.landings(id));
  const [only, setOnly] = useState<Verdict | null>(null);
  const [wanted, setWanted] = useState('');
  const [open, setOpen] = useState<number | null>(null);
  const set = useView((s) => s.set);
  const find = useFind(id);
  const landing = landings.data?.find((l) => l.state === 'done');
  const proof = landing?.proof;
  const groups = useMemo(() => {
    const search = wanted.trim().toLowerCase();
    const result: { name: string; rows: { row: LedgerRow; index: number }[] }[] = [];
    (proof?.rows ?? []).forEach((row, index) => {
      if (only && row.verdict !== only) {
        return;
      }
      if (search && !`${row.group} ${row.fact} ${row.note}`.toLowerCase().includes(search)) {
        return;
      }
      const last = result.at(-1);
      if (last?.name === row.group) {
        last.rows.push({ row, index });
      } else {
        result.push({ name: row.group, rows: [{ row, index }] });
      }
    });
    return result;
  }, [proof, only, wanted]);
  const pick = (row: LedgerRow, index: number) => {
    setOpen(open === index ? null : index);
    if (row.nodeId >= 0) {
      set({ selected: [row.nodeId], finding: null });
      window.setTimeout(() => find(), 0);
    }
  };

  if (!landing || !proof) {
    return (
      <>
        <QuaysideHead title="Proof ledger">
          <span className="quiet">not landed yet</span>
        </QuaysideHead>
        <p className="empty-note">
          The proof reads the landed file back and compares it with the far side: what was kept,
          what changed, what was lost, with numbers.{' '}
          <Link to={`/crossings/${id}/landing`}>Land</Link> to get one.
        </p>
      </>
    );
  }
  const toggle = (verdict: Verdict) => setOnly(only === verdict ? null : verdict);
  const countOf = (v: Verdict) =>
    v === 'KEPT' ? proof.kept : v === 'CHANGED' ? proof.changed : proof.lost;
  let shown = 0;
  return (
    <>
      <QuaysideHead title="Proof ledger">
        {(['KEPT', 'CHANGED', 'LOST'] as const).map((v) => (
          <button
            key={v}
            type="button"
            className={`pill pill-${countOf(v) > 0 ? LOOK[v] : 'plain'}`}
            aria-pressed={only === v}
            title={`Only what was ${v.toLowerCase()}`}
            onClick={() => toggle(v)}
          >
            {countOf(v)} {v.toLowerCase()}
          </button>
        ))}
        <span className="quiet">
          {proof.file} · {bytes(proof.bytes)} · read back in {proof.readSeconds.toFixed(2)} s
        </span>
        {!landing.current && (
          <span className="pill pill-change">landed before later steps: land again</span>
        )}
        <span className="end">
          <Form.Control
            size="sm"
            placeholder="Find a fact"
            aria-label="Find a fact"
            value={wanted}
            style={{ width: 130 }}
            onChange={(e) => setWanted(e.target.value)}
          />
          {['html', 'csv', 'json'].map((kind) => (
            <Button
              key={kind}
              variant="outline-secondary"
              href={`/api/landings/${landing.id}/ledger.${kind}`}
              title={`The ledger of “${crossing.name}” as ${kind.toUpperCase()}`}
            >
              {kind.toUpperCase()}
            </Button>
          ))}
          <Button href={`/api/landings/${landing.id}/download`}>Download</Button>
        </span>
      </QuaysideHead>
      <div className="quayside-body">
        <Table hover className="fixed">
          <colgroup>
            {['21%', '14%', '15%', '16%', '12%', 'auto'].map((width) => (
              <col key={width} style={{ width }} />
            ))}
          </colgroup>
          <thead>
            <tr>
              <th>Fact</th>
              <th className="num">Near</th>
              <th className="num">Far</th>
              <th className="num">Landed</th>
              <th className="num">Differs</th>
              <th>Verdict</th>
            </tr>
          </thead>
          <tbody>
            {groups.map((g) => {
              shown += g.rows.length;
              return shown > MOST_ROWS + g.rows.length ? null : (
                <Fragment key={`${g.name}-${g.rows[0]?.index}`}>
                  <tr className="group-row">
                    <td colSpan={6}>{g.name}</td>
                  </tr>
                  {g.rows.map(({ row, index }) => (
                    <tr
                      key={index}
                      tabIndex={0}
                      data-verdict={row.verdict}
                      className={open === index ? 'open' : ''}
                      onClick={() => pick(row, index)}
                      onKeyDown={(e) => e.key === 'Enter' && pick(row, index)}
                    >
                      <td>{row.fact}</td>
                      <td className="num">{row.near}</td>
                      <td className="num">{row.far}</td>
                      <td className="num">{row.landed}</td>
                      <td className="num">{row.differs}</td>
                      <td title={row.note}>
                        <span className={`pill pill-${LOOK[row.verdict]}`}>
                          {row.verdict.toLowerCase()}
                        </span>{' '}
                        <span className="quiet">{row.note}</span>
                      </td>
                    </tr>
                  ))}
                </Fragment>
              );
            })}
          </tbody>
        </Table>
        {shown > MOST_ROWS && (
          <p className="empty-note">Not all rows are shown: find a fact, or take the CSV.</p>
        )}
        {shown === 0 && <p className="empty-note">No fact fits the filter.</p>}
      </div>
    </>
  );
}

import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router-dom';
import type { Crossing } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { bytes } from '../../../shared/format';
import { QuaysideHead } from '../QuaysideHead';
import { LedgerTable, LedgerTools, useLedger, type Verdict, VerdictPills } from './LedgerTable';

/** Near, far and landed, fact by fact, with the verdict. */
export function ProofLedger({ id, crossing }: { id: string; crossing: Crossing }) {
  const landings = useQuery(queries.landings(id));
  const landing = landings.data?.find((l) => l.state === 'done');
  const proof = landing?.proof;
  const ledger = useLedger(id, landing ? { landing: landing.id } : null, 0);
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
  const countOf = (v: Verdict) =>
    v === 'KEPT' ? proof.kept : v === 'CHANGED' ? proof.changed : proof.lost;
  return (
    <>
      <QuaysideHead title="Proof ledger">
        <VerdictPills count={countOf} only={ledger.only} onOnly={ledger.setOnly} />
        {proof.beyond > 0 && (
          <span className="pill pill-loss" title="Changed by more than the shore lets differ">
            {proof.beyond} beyond the shore’s tolerance
          </span>
        )}
        {proof.within > 0 && (
          <span className="quiet">{proof.within} changed within what the shore lets differ</span>
        )}
        <span className="quiet">
          {proof.file} · {bytes(proof.bytes)} · read back in {proof.readSeconds.toFixed(2)} s
        </span>
        {!landing.current && (
          <span className="pill pill-change">landed before later steps: land again</span>
        )}
        <span className="end">
          <LedgerTools
            wanted={ledger.wanted}
            onWanted={ledger.setWanted}
            file={`/api/landings/${landing.id}/ledger`}
            title={crossing.name}
            landing={`/api/landings/${landing.id}`}
          />
          <Button href={`/api/landings/${landing.id}/download`}>Download</Button>
        </span>
      </QuaysideHead>
      {ledger.error && <p className="empty-note loss">{ledger.error.message}</p>}
      <LedgerTable id={id} page={ledger.page} onMore={ledger.more} />
    </>
  );
}

import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import type { Crossing } from '../../../api/client';
import { queries } from '../../../api/queries';
import { LedgerTable, LedgerTools, type Verdict, VerdictPills } from '../proof/LedgerTable';
import { QuaysideHead } from '../QuaysideHead';
import { useHandling } from '../useHandling';

/** The ledger before the proof: near and far side, and what landed when that is still current. */
export function SurveyLedger({ crossing, tabs }: { crossing: Crossing; tabs: ReactNode }) {
  const { id } = crossing;
  const { state } = useHandling(id, true);
  const landings = useQuery(queries.landings(id));
  const landing = landings.data?.find((l) => l.state === 'done' && l.current && l.proof);
  const sides = useQuery({
    ...queries.ledger(id, state?.revision ?? 0),
    enabled: state !== undefined && landings.data !== undefined && !landing,
  });
  const [only, setOnly] = useState<Verdict | null>(null);
  const [wanted, setWanted] = useState('');
  const rows = landing?.proof?.rows ?? sides.data ?? [];
  return (
    <>
      <QuaysideHead title="Survey">
        {tabs}
        <VerdictPills
          count={(v) => rows.filter((r) => r.verdict === v).length}
          only={only}
          onOnly={setOnly}
        />
        <span className="quiet">
          {landing ? `with what landed in ${landing.mainFile}` : 'nothing has landed from this yet'}
        </span>
        <span className="end">
          <LedgerTools
            wanted={wanted}
            onWanted={setWanted}
            file={landing ? `/api/landings/${landing.id}/ledger` : `/api/crossings/${id}/ledger`}
            title={crossing.name}
          />
        </span>
      </QuaysideHead>
      {sides.error && <p className="empty-note loss">{sides.error.message}</p>}
      <LedgerTable id={id} rows={rows} only={only} wanted={wanted} />
    </>
  );
}

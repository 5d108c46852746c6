import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Crossing } from '../../../api/client';
import { queries } from '../../../api/queries';
import { useView } from '../../../view3d/viewState';
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
  const states = useView((s) => s.states);
  const sameSpot = useView((s) => s.sameSpot);
  const set = useView((s) => s.set);
  const chosen = states.near !== 'near' || states.far !== 'now';
  const compared = useQuery({
    ...queries.compare(id, states.near, states.far, state?.revision ?? 0),
    enabled: chosen && state !== undefined,
  });
  const [only, setOnly] = useState<Verdict | null>(null);
  const [wanted, setWanted] = useState('');
  const rows = chosen ? (compared.data ?? []) : (landing?.proof?.rows ?? sides.data ?? []);
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
          {chosen
            ? 'as the views show'
            : landing
              ? `with what landed in ${landing.mainFile}`
              : 'nothing has landed from this yet'}
        </span>
        <span className="end">
          {chosen && (
            <Form.Check
              type="checkbox"
              id="same-spot"
              className="m-0 align-self-center"
              label="On one spot"
              title="For the deviation both states are put on one spot first"
              checked={sameSpot}
              onChange={(e) => set({ sameSpot: e.target.checked })}
            />
          )}
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

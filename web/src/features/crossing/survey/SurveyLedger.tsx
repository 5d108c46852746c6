import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import type { Crossing } from '../../../api/client';
import { queries } from '../../../api/queries';
import { useView } from '../../../view3d/viewState';
import { LedgerTable, LedgerTools, useLedger, VerdictPills } from '../proof/LedgerTable';
import { QuaysideHead } from '../QuaysideHead';
import { useHandling } from '../useHandling';

/** The ledger before the proof: near and far side, and what landed when that is still current. */
export function SurveyLedger({ crossing, tabs }: { crossing: Crossing; tabs: ReactNode }) {
  const { id } = crossing;
  const { state } = useHandling(id, true);
  const landings = useQuery(queries.landings(id));
  const landing = landings.data?.find((l) => l.state === 'done' && l.current && l.proof);
  const states = useView((s) => s.states);
  const sameSpot = useView((s) => s.sameSpot);
  const set = useView((s) => s.set);
  const chosen = states.near !== 'near' || states.far !== 'now';
  const of = chosen
    ? { a: states.near, b: states.far }
    : landing
      ? { landing: landing.id }
      : landings.data
        ? ({ sides: true } as const)
        : null;
  const ledger = useLedger(id, state ? of : null, state?.revision ?? 0);
  const counts = ledger.page;
  return (
    <>
      <QuaysideHead title="Survey">
        {tabs}
        <VerdictPills
          count={(v) =>
            (v === 'KEPT' ? counts?.kept : v === 'CHANGED' ? counts?.changed : counts?.lost) ?? 0
          }
          only={ledger.only}
          onOnly={ledger.setOnly}
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
            wanted={ledger.wanted}
            onWanted={ledger.setWanted}
            file={landing ? `/api/landings/${landing.id}/ledger` : `/api/crossings/${id}/ledger`}
            title={crossing.name}
          />
        </span>
      </QuaysideHead>
      {ledger.error && <p className="empty-note loss">{ledger.error.message}</p>}
      <LedgerTable id={id} page={ledger.page} onMore={ledger.more} />
    </>
  );
}

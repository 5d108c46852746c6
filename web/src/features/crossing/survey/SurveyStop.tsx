import { useState } from 'react';
import { ButtonGroup } from 'react-bootstrap';
import type { Crossing } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { SurveyLedger } from './SurveyLedger';
import { SurveyTable } from './SurveyTable';

/** What was found, or all facts side by side. */
export function SurveyStop({ crossing }: { crossing: Crossing }) {
  const [ledger, setLedger] = useState(false);
  const tabs = (
    <ButtonGroup aria-label="Survey as">
      {[false, true].map((choice) => (
        <Button
          key={String(choice)}
          variant="outline-secondary"
          active={ledger === choice}
          aria-pressed={ledger === choice}
          onClick={() => setLedger(choice)}
        >
          {choice ? 'Ledger' : 'Findings'}
        </Button>
      ))}
    </ButtonGroup>
  );
  return ledger ? (
    <SurveyLedger crossing={crossing} tabs={tabs} />
  ) : (
    <SurveyTable id={crossing.id} tabs={tabs} />
  );
}

import { useState } from 'react';
import { ButtonGroup } from 'react-bootstrap';
import type { Crossing } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { ReadingsTable } from './ReadingsTable';
import { SurveyLedger } from './SurveyLedger';
import { SurveyTable } from './SurveyTable';
import './survey.css';

const TABS = ['Findings', 'Readings', 'Ledger'] as const;

/** What was found, what the numbers probably mean, or all facts side by side. */
export function SurveyStop({ crossing }: { crossing: Crossing }) {
  const [tab, setTab] = useState<(typeof TABS)[number]>('Findings');
  const tabs = (
    <ButtonGroup aria-label="Survey as">
      {TABS.map((choice) => (
        <Button
          key={choice}
          variant="outline-secondary"
          active={tab === choice}
          aria-pressed={tab === choice}
          onClick={() => setTab(choice)}
        >
          {choice}
        </Button>
      ))}
    </ButtonGroup>
  );
  if (tab === 'Ledger') {
    return <SurveyLedger crossing={crossing} tabs={tabs} />;
  }
  return tab === 'Readings' ? (
    <ReadingsTable id={crossing.id} tabs={tabs} />
  ) : (
    <SurveyTable id={crossing.id} tabs={tabs} />
  );
}

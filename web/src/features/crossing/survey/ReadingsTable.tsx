import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Table } from 'react-bootstrap';
import type { Offer, Reading } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { QuaysideHead } from '../QuaysideHead';
import { useHandling } from '../useHandling';

/** What the numbers probably mean: all readings of unit and up axis, with their reasons. */
export function ReadingsTable({ id, tabs }: { id: string; tabs: ReactNode }) {
  const survey = useQuery(queries.survey(id));
  const shores = useQuery(queries.shores());
  const { accept } = useHandling(id, true);
  const near = shores.data?.find((s) => s.shore.id === survey.data?.nearShore)?.shore;
  const read = (kind: string, params: Record<string, unknown>) =>
    accept([
      {
        label: '',
        action: 'step',
        kind,
        params: params as Offer['params'],
        nodeIds: [],
        asks: false,
        first: [],
      },
    ]);
  return (
    <>
      <QuaysideHead title="Survey">
        {tabs}
        <span className="quiet">
          {near && survey.data
            ? `The numbers read best as ${survey.data.nearFrame}; the nearest shore is “${near.name}”.`
            : ''}
        </span>
      </QuaysideHead>
      <div className="quayside-body">
        <Table hover className="fixed">
          <colgroup>
            <col style={{ width: '16%' }} />
            <col style={{ width: '14%' }} />
            <col style={{ width: 'auto' }} />
            <col style={{ width: '16%' }} />
          </colgroup>
          <thead>
            <tr>
              <th>Reading</th>
              <th className="num">Confidence</th>
              <th>Because</th>
              <th>Offered</th>
            </tr>
          </thead>
          <tbody>
            <Rows
              label="Unit of the numbers"
              readings={survey.data?.units ?? []}
              onRead={(value) => read('sourceUnit', { unit: value })}
            />
            <Rows
              label="Up axis"
              readings={survey.data?.ups ?? []}
              onRead={(value) => read('sourceUp', { up: value })}
            />
          </tbody>
        </Table>
      </div>
    </>
  );
}

interface RowsProps {
  label: string;
  readings: Reading[];
  onRead: (value: string) => void;
}

function Rows({ label, readings, onRead }: RowsProps) {
  return (
    <>
      <tr className="group-row">
        <td colSpan={4}>{label}</td>
      </tr>
      {readings.map((r) => (
        <tr key={r.value} className="open" data-reading={r.value}>
          <td>{r.label}</td>
          <td className="num">
            <span
              className="confidence"
              style={{ '--part': r.confidence } as React.CSSProperties}
              aria-hidden
            />
            {Math.round(100 * r.confidence)} %
          </td>
          <td className="quiet">{r.reasons.join('; ') || 'how often it is met'}</td>
          <td>
            {r.chosen ? (
              <span className="quiet">read so</span>
            ) : (
              <Button
                variant="link"
                className="py-0 text-decoration-underline"
                onClick={() => onRead(r.value)}
              >
                Read it so
              </Button>
            )}
          </td>
        </tr>
      ))}
    </>
  );
}

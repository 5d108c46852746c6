import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Table } from 'react-bootstrap';
import { useNavigate } from 'react-router-dom';
import { type FindingView, type Offer, sendJson } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { complain } from '../../../shared/Notices';
import { QuaysideHead } from '../QuaysideHead';
import { useView } from '../store';
import { useFind } from '../useFind';
import { useHandling, withOffer } from '../useHandling';
import { isSolved } from './solved';

const WORDS = { FIX: 'put right', LOOK: 'look at', NOTE: 'know' } as const;

/** The findings: a click shows where, an offer puts it right. */
export function SurveyTable({ id, tabs }: { id: string; tabs: ReactNode }) {
  const survey = useQuery(queries.survey(id));
  const { state, change } = useHandling(id, true);
  const navigate = useNavigate();
  const finding = useView((s) => s.finding);
  const set = useView((s) => s.set);
  const find = useFind(id);
  const [open, setOpen] = useState<number | null>(null);
  const findings = survey.data?.findings ?? [];
  const openOf = (severity: FindingView['severity']) =>
    findings.filter((f) => f.severity === severity && !isSolved(f, state)).length;
  const solved = findings.filter((f) => isSolved(f, state)).length;
  const offered = findings.filter((f) => f.offers.length > 0 && !isSolved(f, state));

  const show = (f: FindingView) => {
    setOpen(open === f.index ? null : f.index);
    set({ finding: f.hasMarks ? f.index : null, selected: f.nodeIds.slice(0, 200) });
    if (!f.hasMarks) {
      // The selection is in the store before the next picture.
      window.setTimeout(() => find(), 0);
    }
  };
  const accept = (offers: Offer[]) => {
    const steps = offers.filter((o) => o.action === 'step');
    if (steps.length > 0) {
      change((list) => steps.reduce(withOffer, list));
    }
    for (const o of offers.filter((x) => x.action === 'bind')) {
      sendJson('PUT', `/api/crossings/${id}/bindings`, {
        reference: o.kind,
        file: (o.params as unknown as { file: string }).file,
      }).catch(complain);
    }
  };
  return (
    <>
      <QuaysideHead title="Survey">
        {tabs}
        <span className={`pill ${openOf('FIX') > 0 ? 'pill-loss' : 'pill-plain'}`}>
          {openOf('FIX')} to put right
        </span>
        <span className="pill pill-change">{openOf('LOOK')} to look at</span>
        <span className="pill pill-plain">{openOf('NOTE')} to know</span>
        {solved > 0 && <span className="pill pill-kept">{solved} answered by steps</span>}
        <span className="quiet">{survey.data ? `${survey.data.checks} checks` : ''}</span>
        <span className="end">
          <Button
            variant="outline-secondary"
            disabled={offered.length === 0}
            onClick={() => accept(offered.flatMap((f) => f.offers.slice(0, 1)))}
          >
            Accept all offers
          </Button>
          <Button
            variant="outline-secondary"
            onClick={() => navigate(`/crossings/${id}/handling${window.location.search}`)}
          >
            To the handling
          </Button>
        </span>
      </QuaysideHead>
      <div className="quayside-body">
        {survey.error && <p className="empty-note loss">{survey.error.message}</p>}
        {survey.data && findings.length === 0 && (
          <p className="empty-note">Nothing was found to put right or to look at.</p>
        )}
        {findings.length > 0 && (
          <Table hover className="fixed">
            <colgroup>
              {['104px', '30%', '15%', '14%', 'auto', '17%'].map((width) => (
                <col key={width} style={{ width }} />
              ))}
            </colgroup>
            <thead>
              <tr>
                <th>To</th>
                <th>Finding</th>
                <th>Where</th>
                <th className="num">Measured</th>
                <th>Evidence</th>
                <th>Offered</th>
              </tr>
            </thead>
            <tbody>
              {findings.map((f) => {
                const answered = isSolved(f, state);
                return (
                  <tr
                    key={f.index}
                    data-code={f.code}
                    tabIndex={0}
                    className={`${open === f.index ? 'open' : ''} ${answered ? 'solved' : ''} ${finding === f.index ? 'picked' : ''}`}
                    onClick={() => show(f)}
                    onKeyDown={(e) => e.key === 'Enter' && show(f)}
                  >
                    <td>
                      <Severity finding={f} answered={answered} />
                    </td>
                    <td>{f.message}</td>
                    <td>{f.where}</td>
                    <td className="num">{f.measured}</td>
                    <td className="quiet">{f.evidence}</td>
                    <td>
                      {f.offers.slice(0, open === f.index ? 3 : 1).map((o) => (
                        <Button
                          key={o.label}
                          variant="link"
                          className="py-0 me-3 text-decoration-underline"
                          disabled={answered}
                          onClick={(e) => {
                            e.stopPropagation();
                            accept([o]);
                          }}
                        >
                          {answered ? 'Done' : o.label}
                        </Button>
                      ))}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </Table>
        )}
      </div>
    </>
  );
}

function Severity({ finding, answered }: { finding: FindingView; answered: boolean }) {
  if (answered) {
    return <span className="pill pill-kept">answered</span>;
  }
  const look =
    finding.severity === 'FIX' ? 'loss' : finding.severity === 'LOOK' ? 'change' : 'plain';
  return <span className={`pill pill-${look}`}>{WORDS[finding.severity]}</span>;
}

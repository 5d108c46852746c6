import { useQuery } from '@tanstack/react-query';
import { Fragment, type ReactNode, useState } from 'react';
import { Form, Table } from 'react-bootstrap';
import { useNavigate } from 'react-router-dom';
import { type FindingView, type Offer, sendJson } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { complain } from '../../../shared/Notices';
import { useView } from '../../../view3d/viewState';
import { QuaysideHead } from '../QuaysideHead';
import { useFind } from '../useFind';
import { useHandling } from '../useHandling';
import { BundleRow } from './BundleRow';
import { rowsOf } from './bundles';
import { FindingRow } from './FindingRow';
import { isSafe, isSolved, openCount } from './solved';

const GROUPS: { severity: FindingView['severity']; label: string }[] = [
  { severity: 'FIX', label: 'To put right' },
  { severity: 'LOOK', label: 'To look at' },
  { severity: 'NOTE', label: 'To know' },
];

/** The findings by what to do with them: a click shows where, an offer puts it right. */
export function SurveyTable({ id, tabs }: { id: string; tabs: ReactNode }) {
  const survey = useQuery(queries.survey(id));
  const handling = useHandling(id, true);
  const navigate = useNavigate();
  const finding = useView((s) => s.finding);
  const set = useView((s) => s.set);
  const find = useFind(id);
  const [open, setOpen] = useState<number | null>(null);
  const [answers, setAnswers] = useState(false);
  const [bundle, setBundle] = useState<string | null>(null);
  const findings = survey.data?.findings ?? [];
  const solved = findings.filter(isSolved).length;
  const shown = findings.filter((f) => answers || !isSolved(f));
  // What is only good to know may be meant: it is never changed in passing.
  const offered = findings.filter((f) => f.severity !== 'NOTE' && isSafe(f) && !isSolved(f));

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
      handling.accept(steps);
    }
    for (const o of offers.filter((x) => x.action === 'read')) {
      sendJson('PUT', `/api/crossings/${id}/reading`, {
        [o.kind]: (o.params as unknown as { value: unknown }).value,
      }).catch(complain);
    }
    for (const o of offers.filter((x) => x.action === 'bind')) {
      sendJson('PUT', `/api/crossings/${id}/bindings`, {
        reference: o.kind,
        file: (o.params as unknown as { file: string }).file,
      }).catch(complain);
    }
  };
  const first = (list: FindingView[]) => list.flatMap((f) => f.offers.slice(0, 1));
  return (
    <>
      <QuaysideHead title="Survey">
        {tabs}
        <span className={`pill ${openCount(findings, 'FIX') > 0 ? 'pill-loss' : 'pill-plain'}`}>
          {openCount(findings, 'FIX')} to put right
        </span>
        <span className="pill pill-change">{openCount(findings, 'LOOK')} to look at</span>
        <span className="pill pill-plain">{openCount(findings, 'NOTE')} to know</span>
        {solved > 0 && (
          <Form.Check
            type="checkbox"
            id="show-answered"
            className="m-0"
            label={`${solved} answered by steps`}
            checked={answers}
            onChange={(e) => setAnswers(e.target.checked)}
          />
        )}
        {solved === 0 && survey.data && <span className="quiet">{survey.data.checks} checks</span>}
        <span className="end">
          <Button
            variant="outline-secondary"
            disabled={offered.length === 0}
            onClick={() => accept(first(offered))}
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
        {survey.data && shown.length === 0 && (
          <p className="empty-note">
            {solved > 0
              ? 'Everything that was found is answered by steps.'
              : 'Nothing was found to put right or to look at.'}
          </p>
        )}
        {shown.length > 0 && (
          <Table hover className="fixed">
            <colgroup>
              {['30%', '16%', '14%', 'auto', '19%'].map((width) => (
                <col key={width} style={{ width }} />
              ))}
            </colgroup>
            <thead>
              <tr>
                <th>Finding</th>
                <th>Where</th>
                <th className="num">Measured</th>
                <th>Evidence</th>
                <th>Offered</th>
              </tr>
            </thead>
            <tbody>
              {GROUPS.map(({ severity, label }) => {
                const own = shown.filter((f) => f.severity === severity);
                const fixes = own.filter((f) => isSafe(f) && !isSolved(f));
                return own.length === 0 ? null : (
                  <Fragment key={severity}>
                    <tr className="group-row">
                      <td colSpan={4}>{label}</td>
                      <td>
                        {fixes.length > 1 && severity !== 'NOTE' && (
                          <Button
                            variant="link"
                            className="py-0 text-decoration-underline"
                            onClick={() => accept(first(fixes))}
                          >
                            Accept these {fixes.length}
                          </Button>
                        )}
                      </td>
                    </tr>
                    {rowsOf(own).map((row) => (
                      <Fragment key={row.key}>
                        {row.findings.length > 1 && (
                          <BundleRow
                            row={row}
                            open={bundle === row.key}
                            onToggle={() => setBundle(bundle === row.key ? null : row.key)}
                            onAccept={accept}
                          />
                        )}
                        {(row.findings.length === 1 || bundle === row.key) &&
                          row.findings.map((f) => (
                            <FindingRow
                              key={f.index}
                              finding={f}
                              open={open === f.index}
                              picked={finding === f.index}
                              alike={own.filter(
                                (x) => x.code === f.code && x.offers.length > 0 && !isSolved(x),
                              )}
                              onShow={() => show(f)}
                              onAccept={accept}
                            />
                          ))}
                      </Fragment>
                    ))}
                  </Fragment>
                );
              })}
            </tbody>
          </Table>
        )}
      </div>
    </>
  );
}

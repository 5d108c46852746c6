import { useQuery } from '@tanstack/react-query';
import { Table } from 'react-bootstrap';
import { Link, useNavigate } from 'react-router-dom';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { when } from '../../shared/format';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import '../quay/quay.css';

/** All batches. */
export default function BatchesPage() {
  const batches = useQuery(queries.batches());
  const navigate = useNavigate();
  const all = batches.data ?? [];
  return (
    <div className="screen">
      <TopLine
        left={<ScreenNav />}
        right={<Button onClick={() => navigate('/routines')}>Choose a routine</Button>}
      />
      <main className="quay-list">
        <div className="quay-head">
          <h1>Batches</h1>
          <span className="quiet">{all.length}</span>
        </div>
        {batches.error && <p className="loss">{batches.error.message}</p>}
        {batches.isSuccess && all.length === 0 && (
          <p className="quiet">
            A batch sends many assets through one routine and tells of all of them in one report.
            Choose a routine to begin one.
          </p>
        )}
        {all.length > 0 && (
          <Table hover>
            <thead>
              <tr>
                <th>Batch</th>
                <th>Routine</th>
                <th>Begun</th>
                <th className="num">Assets</th>
                <th>State</th>
              </tr>
            </thead>
            <tbody>
              {all.map((b) => (
                <tr key={b.id} className="quay-row" onClick={() => navigate(`/batches/${b.id}`)}>
                  <td>
                    <Link
                      to={`/batches/${b.id}`}
                      className="text-reset text-decoration-none fw-medium"
                      onClick={(e) => e.stopPropagation()}
                    >
                      {b.name}
                    </Link>
                  </td>
                  <td>
                    {b.routine}, version {b.version}
                  </td>
                  <td>{when(b.createdAt)}</td>
                  <td className="num">{b.assets}</td>
                  <td>
                    {b.working ? (
                      <span className="pill pill-plain">
                        {b.done} of {b.assets} done
                      </span>
                    ) : b.trouble > 0 ? (
                      <span className="pill pill-loss">{b.trouble} to look at</span>
                    ) : (
                      <span className="pill pill-kept">
                        {b.assets > 0 ? 'all arrived' : 'empty'}
                      </span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
      </main>
      <footer className="lower-edge">
        <span />
      </footer>
    </div>
  );
}

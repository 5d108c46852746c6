import { useQuery } from '@tanstack/react-query';
import { Table } from 'react-bootstrap';
import { Link } from 'react-router-dom';
import { queries } from '../../api/queries';
import { took, when } from '../../shared/format';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import { isOpen, JobCard } from '../quay/UnderWay';

/** The latest jobs and how they ended. */
export function JobsPage() {
  const jobs = useQuery(queries.jobs());
  const all = jobs.data ?? [];
  return (
    <div className="screen">
      <TopLine left={<ScreenNav />} />
      <main className="quay-list">
        <div className="quay-head">
          <h1>Jobs</h1>
        </div>
        {all.filter(isOpen).map((job) => (
          <JobCard key={job.id} job={job} link />
        ))}
        {jobs.isSuccess && all.length === 0 && (
          <p className="quiet">Reading and landing are jobs. None has run yet.</p>
        )}
        {all.length > 0 && (
          <Table>
            <thead>
              <tr>
                <th>Job</th>
                <th>Begun</th>
                <th className="num">Took</th>
                <th>State</th>
                <th>What happened</th>
              </tr>
            </thead>
            <tbody>
              {all
                .filter((j) => !isOpen(j))
                .map((j) => (
                  <tr key={j.id}>
                    <td>
                      <Link to={`/crossings/${j.crossingId}`}>{j.title}</Link>
                    </td>
                    <td>{when(j.createdAt)}</td>
                    <td className="num">{took(j.createdAt, j.endedAt)}</td>
                    <td>
                      <span
                        className={`pill ${j.state === 'done' ? 'pill-kept' : j.state === 'failed' ? 'pill-loss' : 'pill-plain'}`}
                      >
                        {j.state}
                      </span>
                    </td>
                    <td>{j.problem ?? (j.what === j.state ? '' : j.what)}</td>
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

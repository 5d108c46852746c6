import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router-dom';
import { type Job, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { complain } from '../../shared/Notices';
import { Progress } from '../../shared/Progress';
import './quay.css';

/** Jobs that run now, with progress and cancel. */
export function UnderWay({ crossingId }: { crossingId?: string }) {
  const jobs = useQuery(queries.jobs());
  const open = (jobs.data ?? []).filter(
    (j) => isOpen(j) && (crossingId === undefined || j.crossingId === crossingId),
  );
  if (open.length === 0) {
    return null;
  }
  return (
    <>
      <h2 className="caps">Under way</h2>
      {open.map((job) => (
        <JobCard key={job.id} job={job} link={crossingId === undefined} />
      ))}
    </>
  );
}

export function isOpen(job: Job): boolean {
  return job.state === 'waiting' || job.state === 'running';
}

interface CardProps {
  job: Job;
  /** Whether the title leads to the crossing; not when one is there already. */
  link: boolean;
}

export function JobCard({ job, link }: CardProps) {
  return (
    <div className="under-way">
      <div>
        {link ? (
          <Link className="fw-medium text-truncate text-reset" to={`/crossings/${job.crossingId}`}>
            {job.title}
          </Link>
        ) : (
          <b className="fw-medium text-truncate">{job.title}</b>
        )}
        <span>{Math.round(100 * job.fraction)} %</span>
      </div>
      <Progress label={job.title} fraction={job.fraction} />
      <div className="d-flex justify-content-between gap-2">
        <p>{job.what}</p>
        <Button
          variant="link"
          size="sm"
          onClick={() => sendJson('POST', `/api/jobs/${job.id}/cancel`).catch(complain)}
        >
          Cancel
        </Button>
      </div>
    </div>
  );
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router-dom';
import { type Batch, problemOf, type Routine, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { complain } from '../../shared/Notices';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import '../shores/shores.css';
import './routines.css';

/** Routines: what each does, and the way to run one on many assets. */
export default function RoutinesPage() {
  const { id } = useParams();
  const routines = useQuery(queries.routines());
  const client = useQueryClient();
  const navigate = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const all = routines.data ?? [];
  const chosen = all.find((r) => r.id === id) ?? all[0];
  const known = () => client.invalidateQueries({ queryKey: ['routines'] });
  const bring = async (brought: File | undefined) => {
    if (!brought) {
      return;
    }
    const response = await fetch('/api/routines/file', {
      method: 'POST',
      headers: { 'Content-Type': 'text/plain' },
      body: await brought.text(),
    });
    if (!response.ok) {
      throw await problemOf(response);
    }
    const added = (await response.json()) as Routine;
    await known();
    navigate(`/routines/${added.id}`);
  };
  return (
    <div className="screen">
      <TopLine left={<ScreenNav />} />
      <main className="shores">
        <nav className="shore-list" aria-label="Routines">
          <div className="quay-head">
            <h1>Routines</h1>
            <span className="quiet">{all.length}</span>
          </div>
          <ul>
            {all.map((r) => (
              <li key={r.id}>
                <button
                  type="button"
                  aria-current={r === chosen ? 'page' : undefined}
                  onClick={() => navigate(`/routines/${r.id}`)}
                >
                  {r.name}
                  <span className="quiet">
                    {r.builtIn ? 'built in' : `your own, version ${r.version}`}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <div className="d-flex gap-2">
            <Button variant="outline-secondary" onClick={() => file.current?.click()}>
              Bring a file
            </Button>
            <a href="/api/routines/schema" className="align-self-center">
              Schema
            </a>
          </div>
          <input
            ref={file}
            type="file"
            accept="application/json,.json"
            hidden
            aria-label="Routine file"
            onChange={(e) => {
              bring(e.target.files?.[0]).catch(complain);
              e.target.value = '';
            }}
          />
        </nav>
        <section className="shore-body" aria-label="Routine">
          {routines.error && <p className="loss">{routines.error.message}</p>}
          {chosen && (
            <RoutineFacts
              key={chosen.id}
              routine={chosen}
              onDelete={() =>
                sendJson('DELETE', `/api/routines/${chosen.id}`)
                  .then(async () => {
                    await known();
                    navigate('/routines');
                  })
                  .catch(complain)
              }
            />
          )}
        </section>
      </main>
      <footer className="lower-edge">
        <span>A routine is saved at the landing stop of a crossing.</span>
      </footer>
    </div>
  );
}

interface FactsProps {
  routine: Routine;
  onDelete: () => void;
}

function RoutineFacts({ routine, onDelete }: FactsProps) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [sure, setSure] = useState(false);
  const [version, setVersion] = useState(routine.version);
  const begin = () =>
    sendJson<Batch>('POST', '/api/batches', { routine: routine.id, name: routine.name })
      .then(async (batch) => {
        await client.invalidateQueries({ queryKey: ['batches'] });
        navigate(`/batches/${batch.id}`);
      })
      .catch(complain);
  return (
    <>
      <div className="quay-head">
        <h1>{routine.name}</h1>
        <span className="ms-auto d-flex gap-2">
          <Button onClick={begin}>Begin a batch</Button>
          <Button
            variant="outline-secondary"
            href={`/api/routines/${routine.id}/file?version=${version}`}
          >
            Take as a file
          </Button>
          {!routine.builtIn && (
            <Button
              variant="outline-secondary"
              className={sure ? 'loss' : ''}
              onClick={() => (sure ? onDelete() : setSure(true))}
              onBlur={() => setSure(false)}
            >
              {sure ? 'Really delete' : 'Delete'}
            </Button>
          )}
        </span>
      </div>
      {routine.note && <p className="routine-note">{routine.note}</p>}
      <dl className="routine-facts">
        <dt>Shore</dt>
        <dd>{routine.shore}</dd>
        <dt>First</dt>
        <dd>
          {routine.accept
            ? 'What the survey offers is accepted, where nothing is taken away.'
            : 'Nothing of what the survey offers is accepted by itself.'}
        </dd>
        <dt>Steps</dt>
        <dd>
          {routine.steps.length === 0 ? (
            'None.'
          ) : (
            <ol>
              {routine.steps.map((step, i) => (
                <li key={i}>{step}</li>
              ))}
            </ol>
          )}
        </dd>
        <dt>Landings</dt>
        <dd>{routine.landings.join('; ')}</dd>
        {routine.versions.length > 1 && (
          <>
            <dt>Versions</dt>
            <dd>
              <select
                className="form-select form-select-sm"
                aria-label="Version to take as a file"
                value={version}
                onChange={(e) => setVersion(Number(e.target.value))}
              >
                {routine.versions.map((v) => (
                  <option key={v} value={v}>
                    {v === routine.version ? `${v}, in effect` : v}
                  </option>
                ))}
              </select>
            </dd>
          </>
        )}
      </dl>
    </>
  );
}

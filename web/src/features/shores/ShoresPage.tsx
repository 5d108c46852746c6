import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { useNavigate, useParams } from 'react-router-dom';
import { type Shore, type ShoreView, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { complain } from '../../shared/Notices';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import { ShoreForm } from './ShoreForm';
import './shores.css';

/** Where assets come from and go to: built-in conventions and one's own. */
export default function ShoresPage() {
  const { id } = useParams();
  const shores = useQuery(queries.shores());
  const client = useQueryClient();
  const navigate = useNavigate();
  const bring = useRef<HTMLInputElement>(null);
  const all = shores.data ?? [];
  const chosen = all.find((s) => s.shore.id === id) ?? all[0];
  const known = () => client.invalidateQueries({ queryKey: ['shores'] });
  const add = (shore: Shore) =>
    sendJson<ShoreView>('POST', '/api/shores', shore)
      .then(async (added) => {
        await known();
        navigate(`/shores/${added.shore.id}`);
      })
      .catch(complain);
  const read = (file: File | undefined) => {
    file
      ?.text()
      .then((text) => add(JSON.parse(text) as Shore))
      .catch(() =>
        complain(
          new Error(`“${file.name}” is no shore: a JSON file as the schema says is needed.`),
        ),
      );
  };
  return (
    <div className="screen">
      <TopLine left={<ScreenNav />} />
      <main className="shores">
        <nav className="shore-list" aria-label="Shores">
          <div className="quay-head">
            <h1>Shores</h1>
            <span className="quiet">{all.length}</span>
          </div>
          <ul>
            {all.map((s) => (
              <li key={s.shore.id}>
                <button
                  type="button"
                  aria-current={s === chosen ? 'page' : undefined}
                  onClick={() => navigate(`/shores/${s.shore.id}`)}
                >
                  {s.shore.name}
                  <span className="quiet">{s.builtIn ? 'built in' : 'your own'}</span>
                </button>
              </li>
            ))}
          </ul>
          <div className="d-flex gap-2">
            <Button variant="outline-secondary" onClick={() => bring.current?.click()}>
              Bring a file
            </Button>
            <a href="/api/shores/schema" className="align-self-center">
              Schema
            </a>
          </div>
          <input
            ref={bring}
            type="file"
            accept="application/json,.json"
            hidden
            aria-label="Shore file"
            onChange={(e) => {
              read(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </nav>
        <section className="shore-body" aria-label="Shore">
          {shores.error && <p className="loss">{shores.error.message}</p>}
          {chosen && (
            <ShoreForm
              key={chosen.shore.id}
              view={chosen}
              onCopy={() => add({ ...chosen.shore, name: `${chosen.shore.name}, copy` })}
              onSave={(shore) => {
                sendJson('PUT', `/api/shores/${shore.id}`, shore).then(known).catch(complain);
              }}
              onDelete={() => {
                sendJson('DELETE', `/api/shores/${chosen.shore.id}`)
                  .then(async () => {
                    await known();
                    navigate('/shores');
                  })
                  .catch(complain);
              }}
            />
          )}
        </section>
      </main>
      <footer className="lower-edge">
        <span>Built-in shores stay as they are: copy one to change it.</span>
      </footer>
    </div>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import { useKeys } from '../../shared/useKeys';
import { BringCargo } from './BringCargo';
import { CrossingTable } from './CrossingTable';
import { StorageLine } from './StorageLine';
import { UnderWay } from './UnderWay';
import './quay.css';

/** All crossings, a place to drop files, and what is under way. */
export function QuayPage() {
  const crossings = useQuery(queries.crossings());
  const [wanted, setWanted] = useState('');
  const find = useRef<HTMLInputElement>(null);
  const choose = useRef<() => void>(() => undefined);
  useKeys({ '/': () => find.current?.focus(), n: () => choose.current() });
  const all = crossings.data ?? [];
  const shown = all.filter((c) => c.name.toLowerCase().includes(wanted.trim().toLowerCase()));
  return (
    <div className="screen">
      <TopLine
        left={<ScreenNav />}
        right={<Button onClick={() => choose.current()}>New crossing</Button>}
      />
      <main className="quay">
        <section className="quay-list" aria-labelledby="crossings">
          <div className="quay-head">
            <h1 id="crossings">Crossings</h1>
            <span className="quiet">{all.length}</span>
            {all.length > 0 && (
              <Form.Control
                ref={find}
                value={wanted}
                onChange={(e) => setWanted(e.target.value)}
                placeholder="Find a crossing"
                aria-label="Find a crossing"
              />
            )}
          </div>
          {crossings.error && <p className="loss">{crossings.error.message}</p>}
          {crossings.isSuccess && all.length === 0 && (
            <p className="quiet">
              A crossing carries one asset from the tool it was made in to the place it is used in,
              and proves that it arrived. Drop its files at the right to begin.
            </p>
          )}
          {all.length > 0 && <CrossingTable crossings={shown} />}
          {all.length > 0 && shown.length === 0 && (
            <p className="quiet">No crossing has “{wanted}” in its name.</p>
          )}
          <StorageLine />
        </section>
        <aside className="quay-side">
          <BringCargo choose={choose} />
          <UnderWay />
        </aside>
      </main>
      <footer className="lower-edge">
        <span>
          <kbd>N</kbd>new crossing <kbd>/</kbd>find <kbd>?</kbd>all keys
        </span>
        <span>Files stay on this server.</span>
      </footer>
    </div>
  );
}

import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { Link, useNavigate, useParams } from 'react-router-dom';
import type { BenchPut } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { TopLine } from '../../shared/TopLine';
import { useKeys } from '../../shared/useKeys';
import { useView } from '../../view3d/viewState';
import { CrossingName } from '../crossing/CrossingName';
import { RouteLine } from '../crossing/RouteLine';
import { newStepId, useHandling } from '../crossing/useHandling';
import { BenchGrid, type Place } from './BenchGrid';
import { BenchView } from './BenchView';
import { counts, FILTERS, type Filter, shownRows } from './benchRows';
import { CopyMaterials } from './CopyMaterials';
import { LooseImages } from './LooseImages';
import { SlotEditor } from './SlotEditor';
import './bench.css';
import '../crossing/crossing.css';
import '../crossing/views.css';

/** The material bench: materials and channels of both sides, the images on them, and loose ones. */
export default function BenchPage() {
  const { id = '' } = useParams();
  const navigate = useNavigate();
  const crossing = useQuery(queries.crossing(id));
  const ready = crossing.data?.state === 'ready';
  const { state, change, put, undo, redo } = useHandling(id, ready);
  const revision = state?.revision;
  const bench = useQuery({
    ...queries.bench(id, revision ?? 0),
    enabled: ready && revision !== undefined,
  });
  const [filter, setFilter] = useState<Filter>('all');
  const [find, setFind] = useState('');
  const [chosen, setChosen] = useState<Place | null>(null);
  const search = useRef<HTMLInputElement>(null);
  const set = useView((s) => s.set);
  useEffect(() => {
    useView.getState().reset();
    return () => useView.getState().set({ lit: null });
  }, [id]);
  useKeys({
    '/': () => search.current?.focus(),
    escape: () => choose(null),
    'ctrl+z': undo,
    'ctrl+shift+z': redo,
  });

  const choose = (place: Place | null) => {
    setChosen(place);
    set({ lit: place?.material ?? null });
  };
  const putOne = (place: Place, image: string | null) =>
    put([{ material: place.material, channel: place.channel, image } as BenchPut]);
  const putAll = () =>
    change((steps) => {
      const last = steps.map((s) => s.kind === 'textures' && s.enabled).lastIndexOf(true);
      return last < 0
        ? [
            ...steps,
            {
              id: newStepId(),
              kind: 'textures',
              params: { find: 'fitting' },
              enabled: true,
              nodeIds: [],
              pattern: '',
              ofKind: '',
              parts: [],
              paramParts: {},
            },
          ]
        : steps.map((s, i) =>
            i === last ? { ...s, params: { ...s.params, find: 'fitting' } } : s,
          );
    });

  const columns = bench.data?.channels ?? [];
  const all = bench.data?.materials ?? [];
  const rows = shownRows(all, filter, find);
  const number = counts(all);
  const row = all.find((r) => r.name === chosen?.material);
  const column = columns.find((c) => c.channel === chosen?.channel);
  const problem = crossing.error ?? bench.error;
  return (
    <div className="screen">
      <TopLine
        left={crossing.data && <CrossingName crossing={crossing.data} />}
        middle={<RouteLine id={id} stop="handling" ready={ready} />}
        right={
          <>
            <CopyMaterials id={id} />
            <Button
              variant="outline-secondary"
              title="Steps, such as one material of many"
              onClick={() => navigate(`/crossings/${id}/handling`)}
            >
              Workbench
            </Button>
          </>
        }
      />
      <main className="bench" data-open={row !== undefined && column !== undefined}>
        {ready && revision !== undefined && (
          <BenchView
            id={id}
            revision={revision}
            onPart={(node) => {
              const hit = all.find((r) => r.nodeIds.includes(node));
              if (hit) {
                choose({ material: hit.name, channel: columns[0]?.channel ?? '' });
              }
            }}
          />
        )}
        <section className="bench-sheet" aria-label="Materials">
          <header>
            <h1>Material bench</h1>
            <Form.Control
              ref={search}
              type="search"
              size="sm"
              aria-label="Find a material or an image"
              placeholder="Find a material or an image ( / )"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            <div className="bench-filters">
              {FILTERS.map((f) => (
                <button
                  key={f.id}
                  type="button"
                  className="bench-filter"
                  aria-pressed={filter === f.id}
                  data-care={(f.id === 'missing' || f.id === 'wrong') && number[f.id] > 0}
                  title={f.help}
                  onClick={() => setFilter(f.id)}
                >
                  {f.label} <b>{number[f.id]}</b>
                </button>
              ))}
            </div>
          </header>
          <div className="bench-scroll">
            {problem ? (
              <p className="empty-note">
                {problem.message} <Link to="/">Back to the quay</Link>
              </p>
            ) : !bench.data ? (
              <p className="empty-note">
                {crossing.data && !ready
                  ? 'The cargo is not read yet: its materials come then.'
                  : 'Looking at the images …'}
              </p>
            ) : all.length === 0 ? (
              <p className="empty-note">
                This asset has no materials. Give its faces one with the step “Give a material”;
                then images can be put on it here.
              </p>
            ) : rows.length === 0 ? (
              <p className="empty-note">No material is like that.</p>
            ) : (
              <BenchGrid
                id={id}
                columns={columns}
                rows={rows}
                chosen={chosen}
                onChoose={choose}
                onTakeAway={(place) => putOne(place, '-')}
              />
            )}
          </div>
          {row && column ? (
            <SlotEditor
              key={`${row.name} ${column.channel}`}
              id={id}
              revision={revision ?? 0}
              row={row}
              column={column}
              images={bench.data?.images ?? []}
              onPut={(image) => putOne({ material: row.name, channel: column.channel }, image)}
              onClose={() => choose(null)}
            />
          ) : (
            bench.data &&
            bench.data.loose.length > 0 && (
              <LooseImages id={id} loose={bench.data.loose} onPut={put} onPutAll={putAll} />
            )
          )}
        </section>
      </main>
      <footer className="lower-edge">
        <span>
          <kbd>/</kbd>find &ensp;
          <kbd>arrows</kbd>from cell to cell &ensp;
          <kbd>Enter</kbd>open &ensp;
          <kbd>Delete</kbd>take away &ensp;
          <kbd>Esc</kbd>close &ensp;
          <kbd>?</kbd>all keys
        </span>
        <span>What is put by hand is kept in the step “Put textures on”</span>
      </footer>
    </div>
  );
}

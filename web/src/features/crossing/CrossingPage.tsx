import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Navigate, useNavigate, useParams, useSearchParams } from 'react-router-dom';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { TopLine } from '../../shared/TopLine';
import { CrossingName } from './CrossingName';
import { CargoPanel } from './cargo/CargoPanel';
import { LowerEdge } from './LowerEdge';
import { Timeline } from './motion/Timeline';
import { useTime } from './motion/time';
import { Quayside } from './Quayside';
import { RouteLine, STOPS, type Stop } from './RouteLine';
import { useView } from './store';
import { TwinView } from './TwinView';
import { useCrossingKeys } from './useCrossingKeys';

/** The workbench of one crossing: route, cargo list, twin view with the handling, quayside. */
export default function CrossingPage() {
  const { id = '', stop = 'cargo' } = useParams();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const crossing = useQuery(queries.crossing(id));
  const selected = useView((s) => s.selected);
  const ready = crossing.data?.state === 'ready';
  const near = useQuery({ ...queries.near(id), enabled: ready });
  const handling = useQuery({ ...queries.handling(id), enabled: ready });
  useCrossingKeys(id, stop as Stop, ready);

  // A link may name a part: it is selected once, then the address follows the selection.
  useEffect(() => {
    useView.getState().reset();
    useTime.getState().open(null);
    const part = Number(search.get('part'));
    if (part > 0) {
      useView.getState().set({ selected: [part] });
    }
  }, [id]);
  useEffect(() => {
    const wanted = selected.length === 1 ? String(selected[0]) : null;
    if (wanted !== new URLSearchParams(window.location.search).get('part')) {
      setSearch(wanted ? { part: wanted } : {}, { replace: true });
    }
  }, [selected, setSearch]);

  if (!STOPS.some((s) => s.id === stop)) {
    return <Navigate to={`/crossings/${id}/cargo`} replace />;
  }
  if (crossing.error) {
    return (
      <div className="screen">
        <TopLine />
        <p className="loading">
          {crossing.error.message} <a href="/">Back to the quay</a>
        </p>
      </div>
    );
  }
  return (
    <div className="screen">
      <TopLine
        left={crossing.data && <CrossingName crossing={crossing.data} />}
        middle={<RouteLine id={id} stop={stop as Stop} ready={ready} />}
        right={
          <Button
            disabled={!ready}
            onClick={() => navigate(`/crossings/${id}/landing${window.location.search}`)}
            title="Land (L)"
          >
            Land
          </Button>
        }
      />
      <main className="crossing">
        <CargoPanel id={id} ready={ready} />
        <div className="workbench">
          <TwinView id={id} crossing={crossing.data} />
          <Timeline id={id} near={near.data} revision={handling.data?.revision ?? 0} />
          {crossing.data && <Quayside id={id} stop={stop as Stop} crossing={crossing.data} />}
        </div>
      </main>
      <LowerEdge id={id} />
    </div>
  );
}

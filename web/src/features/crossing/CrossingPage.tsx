import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { Navigate, useNavigate, useParams, useSearchParams } from 'react-router-dom';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { TopLine } from '../../shared/TopLine';
import { useTime } from '../../view3d/data/time';
import { useView } from '../../view3d/viewState';
import { CrossingName } from './CrossingName';
import { CargoPanel } from './cargo/CargoPanel';
import { LowerEdge } from './LowerEdge';
import { Timeline } from './motion/Timeline';
import { linkOfPart, partOfLink } from './partLinks';
import { Quayside } from './Quayside';
import { RouteLine, STOPS, type Stop } from './RouteLine';
import { TwinView } from './TwinView';
import { useCrossingKeys } from './useCrossingKeys';
import './crossing.css';

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
  const linked = useRef<string | null>(null);
  useEffect(() => {
    useView.getState().reset();
    useTime.getState().open(null);
    linked.current = search.get('part');
  }, [id]);
  const nodes = near.data?.nodes;
  useEffect(() => {
    if (nodes && linked.current !== null) {
      const part = partOfLink(nodes, linked.current);
      linked.current = null;
      if (part !== undefined) {
        useView.getState().set({ selected: [part] });
      }
    }
  }, [nodes]);
  useEffect(() => {
    const one = selected.length === 1 ? selected[0] : undefined;
    const wanted = one !== undefined && nodes ? linkOfPart(nodes, one) : null;
    if (
      linked.current === null &&
      nodes &&
      wanted !== new URLSearchParams(window.location.search).get('part')
    ) {
      setSearch(wanted ? { part: wanted } : {}, { replace: true });
    }
  }, [selected, nodes, setSearch]);

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
          <>
            <Button
              variant="outline-secondary"
              disabled={!ready}
              onClick={() => navigate(`/crossings/${id}/materials`)}
              title="Material bench (M)"
            >
              Materials
            </Button>
            <Button
              disabled={!ready}
              onClick={() => navigate(`/crossings/${id}/landing${window.location.search}`)}
              title="Land (L)"
            >
              Land
            </Button>
          </>
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

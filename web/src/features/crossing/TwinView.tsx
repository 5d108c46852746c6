import { useQuery } from '@tanstack/react-query';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { ButtonGroup } from 'react-bootstrap';
import type { Crossing, SideView } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { metres } from '../../shared/format';
import { sideBox } from '../../view3d/data/bounds';
import type { BoxPoint } from '../../view3d/data/pivots';
import { useTime } from '../../view3d/data/time';
import { squareOf } from '../../view3d/GroundGrid';
import { SideCanvas } from '../../view3d/SideCanvas';
import { useChanging } from '../../view3d/useChanging';
import { type Deviations, useDeviation } from '../../view3d/useDeviation';
import { type Extra, type Meshes, useMeshes } from '../../view3d/useMeshes';
import { type Layout, type Side, useView } from '../../view3d/viewState';
import { UnderWay } from '../quay/UnderWay';
import { SteppingStones } from './handling/SteppingStones';
import { useMotion } from './motion/useMotion';
import { PickNote } from './PickNote';
import { StateChoice } from './StateChoice';
import { useBackdrop } from './useBackdrop';
import { useFind } from './useFind';
import { usePick } from './usePick';
import { usePivotPick } from './usePivotPick';
import { ViewTools } from './ViewTools';
import './views.css';

const LAYOUTS: { id: Layout; label: string; help: string }[] = [
  { id: 'near', label: 'Near', help: 'Near side alone (1)' },
  { id: 'both', label: 'Both', help: 'Side by side (2)' },
  { id: 'far', label: 'Far', help: 'Far side alone (3)' },
  { id: 'seam', label: 'Seam', help: 'One over the other with a sliding seam (4)' },
];

const NO_HANDLES: BoxPoint[] = [];

interface Props {
  id: string;
  crossing: Crossing | undefined;
}

/** Near side, the stepping stones of the handling, far side; one linked camera. */
export function TwinView({ id, crossing }: Props) {
  const ready = crossing?.state === 'ready';
  const layout = useView((s) => s.layout);
  const seam = useView((s) => s.seam);
  const openStone = useView((s) => s.openStone !== null);
  const hoveredStone = useView((s) => s.hoveredStone);
  const finding = useView((s) => s.finding);
  const shading = useView((s) => s.shading);
  const states = useView((s) => s.states);
  const sameSpot = useView((s) => s.sameSpot);
  const extra: Extra = shading === 'pieces' ? 'pieces' : shading === 'sets' ? 'facesets' : 'none';
  const set = useView((s) => s.set);
  const handling = useQuery({ ...queries.handling(id), enabled: ready });
  const near = useQuery({ ...queries.near(id), enabled: ready });
  const revision = handling.data?.revision;
  const far = useQuery({
    ...queries.far(id, revision ?? 0, null),
    enabled: ready && revision !== undefined,
    placeholderData: (before) => before,
  });
  const after = useQuery({
    ...queries.far(id, revision ?? 0, hoveredStone),
    enabled: ready && revision !== undefined && hoveredStone !== null,
  });
  const marks = useQuery({
    ...queries.marks(id, finding ?? 0),
    enabled: ready && finding !== null,
  });
  const leftState = useQuery({
    ...queries.side(id, states.near, revision ?? 0),
    enabled: ready && revision !== undefined && states.near !== 'near',
  });
  const rightState = useQuery({
    ...queries.side(id, states.far, revision ?? 0),
    enabled: ready && revision !== undefined && states.far !== 'now',
  });
  const nearSide = useChanging(id, states.near === 'near' ? near.data : leftState.data);
  const now = hoveredStone !== null && after.data ? after.data : far.data;
  const farSide = useChanging(id, states.far === 'now' ? now : rightState.data);
  const nearMeshes = useMeshes(id, nearSide, extra);
  const farMeshes = useMeshes(id, farSide, extra);
  const ask = { crossingId: id, sameSpot, wanted: shading === 'deviation' };
  const nearOff = useDeviation({
    ...ask,
    side: nearSide,
    parts: nearMeshes.parts,
    shown: states.near,
    against: states.far,
  });
  const farOff = useDeviation({
    ...ask,
    side: farSide,
    parts: farMeshes.parts,
    shown: states.far,
    against: states.near,
  });
  // One scale for both views, so that colours can be compared.
  const most = Math.max(nearOff.most, farOff.most);
  const nearDeviations = useMemo(() => ({ ...nearOff, most }), [nearOff, most]);
  const farDeviations = useMemo(() => ({ ...farOff, most }), [farOff, most]);
  const pickNear = usePick(id, 'near', nearSide);
  const pickFar = usePick(id, 'far', farSide);
  // A pivot is set where the last step leaves the scene.
  const showsLast = states.far === 'now' && hoveredStone === null;
  const pivot = usePivotPick(id, showsLast ? farSide : undefined, farMeshes.parts, pickFar);
  const backdrop = useBackdrop(id);
  const clip = useTime((s) => s.clip);
  const nearMotion = useMotion(id, states.near, clip, states.near === 'near' ? 0 : (revision ?? 0));
  const farMotion = useMotion(id, states.far, clip, states.far === 'near' ? 0 : (revision ?? 0));
  const rigged = (near.data?.skins.length ?? 0) > 0;
  const frame = useRef<HTMLDivElement>(null);
  const find = useFind(id);
  const findOnce = useRef<number | null>(null);

  // A finding's elements are framed when they arrive.
  useEffect(() => {
    if (finding !== null && marks.data && findOnce.current !== finding) {
      const some =
        marks.data.points.length + marks.data.segments.length + marks.data.triangles.length;
      find(some > 0 ? marks.data : undefined);
    }
    findOnce.current = marks.data ? finding : findOnce.current;
  }, [finding, marks.data, find]);

  const drag = (e: PointerEvent<HTMLButtonElement>) => {
    if (e.buttons && frame.current) {
      const box = frame.current.getBoundingClientRect();
      const river = frame.current.querySelector('.river')?.clientWidth ?? 0;
      const part = (100 * (e.clientX - box.left)) / (box.width - river);
      set({ seam: Math.max(2, Math.min(98, part)) });
    }
  };
  const shown = finding !== null ? marks.data : undefined;
  return (
    <div
      className="twin"
      data-layout={layout}
      data-form={openStone}
      ref={frame}
      style={{ '--seam': `${seam}%` } as React.CSSProperties}
    >
      <ViewFrame
        which="near"
        title={states.near === 'now' ? 'Far side' : 'Near side'}
        crossingId={id}
        deviation={nearDeviations}
        side={nearSide}
        meshes={nearMeshes}
        rigged={rigged}
        within={nearMotion?.stream?.error() ?? 0}
        crossing={crossing}
        problem={near.error?.message}
        render={(side) => (
          <SideCanvas
            crossingId={id}
            which="near"
            side={side}
            meshes={nearMeshes}
            marks={shown}
            motion={nearMotion}
            deviations={nearDeviations}
            backdrop={backdrop}
            handles={NO_HANDLES}
            onPick={pickNear}
          />
        )}
      />
      <aside className="river" aria-label="Handling">
        <SteppingStones id={id} ready={ready} />
      </aside>
      <ViewFrame
        which="far"
        title={
          states.far === 'near'
            ? 'Near side'
            : hoveredStone === null
              ? 'Far side'
              : `Far side after ${hoveredStone} ${hoveredStone === 1 ? 'step' : 'steps'}`
        }
        crossingId={id}
        deviation={farDeviations}
        side={farSide}
        meshes={farMeshes}
        rigged={rigged}
        within={farMotion?.stream?.error() ?? 0}
        crossing={crossing}
        problem={far.error?.message}
        render={(side) => (
          <SideCanvas
            crossingId={id}
            which="far"
            side={side}
            meshes={farMeshes}
            marks={shown}
            motion={farMotion}
            deviations={farDeviations}
            backdrop={backdrop}
            handles={pivot.handles}
            onPick={pivot.onPick}
          />
        )}
      />
      {layout === 'seam' && (
        <button
          type="button"
          className="seam"
          aria-label="Seam: left of it near, right of it far; move with the arrow keys"
          onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={drag}
          onKeyDown={(e) => {
            const step = e.key === 'ArrowLeft' ? -3 : e.key === 'ArrowRight' ? 3 : 0;
            if (step) {
              e.preventDefault();
              set({ seam: Math.max(2, Math.min(98, seam + step)) });
            }
          }}
        />
      )}
    </div>
  );
}

interface FrameProps {
  which: Side;
  title: string;
  crossingId: string;
  deviation: Deviations;
  side: SideView | undefined;
  meshes: Meshes;
  /** Whether there is a skeleton to show. */
  rigged: boolean;
  /** By how much points of a large cache may be drawn off, in units of the mesh. */
  within: number;
  crossing: Crossing | undefined;
  problem: string | undefined;
  render: (side: SideView) => React.ReactNode;
}

/** Steps are whole in the numbers of a mesh: how much that is. */
function withinText(units: number, which: Side, side: SideView): string {
  const doubtful = which === 'near' && side.heightDoubtful;
  return doubtful
    ? `${Number(units.toPrecision(2))} units`
    : `${Number((1000 * units * side.metresPerUnit).toPrecision(2))} mm`;
}

/** A view's caption, its tools, and what to say when there is nothing to see. */
function ViewFrame(props: FrameProps) {
  const { which, title, crossingId, deviation, side, meshes, rigged, within } = props;
  const { crossing, problem, render } = props;
  const heat = useView((s) => s.shading === 'deviation');
  const [opened, setOpened] = useState(false);
  const layout = useView((s) => s.layout);
  const set = useView((s) => s.set);
  useEffect(() => {
    if (meshes.ready) {
      setOpened(true);
    }
  }, [meshes.ready]);
  const square = side ? squareOf(sideBox(side), side.metresPerUnit) * side.metresPerUnit : 0;
  const failed = crossing?.state === 'failed' ? crossing.problem : problem;
  return (
    <section className="view" data-side={which} data-ready={meshes.ready} aria-label={title}>
      <div className="view-head">
        <div>
          <h2>
            <StateChoice id={crossingId} which={which} title={title} />
          </h2>
          <p>{side?.caption ?? ''}</p>
        </div>
        {side && (
          <div>
            <h2 className={side.heightDoubtful ? 'loss' : ''}>{side.height}</h2>
            <p>{side.heightNote}</p>
          </div>
        )}
      </div>
      {side && opened && render(side)}
      {failed && <p className="view-note loss">{failed}</p>}
      {!failed && !opened && (
        <div className="view-note">
          {crossing?.state === 'empty'
            ? 'No cargo yet. Bring files below.'
            : crossing?.state === 'reading'
              ? which === 'near' && <UnderWay crossingId={crossing.id} />
              : 'Fetching the meshes …'}
        </div>
      )}
      {meshes.error && <p className="view-note loss">{meshes.error}</p>}
      {heat && which === 'far' && (
        <p className="heat-note" aria-live="polite">
          {deviation.ready ? (
            <>
              <span>0</span>
              <span className="heat-bar" />
              <span>{metres(deviation.most)}</span>
            </>
          ) : (
            'Measuring …'
          )}
        </p>
      )}
      <PickNote which={which} />
      <div className="view-foot">
        {(which === 'near' ? layout !== 'far' : layout === 'far') && (
          <ViewTools id={crossingId} side={side} rigged={rigged} />
        )}
        {(which === 'far' || layout === 'near') && (
          <ButtonGroup aria-label="Views">
            {LAYOUTS.map((l) => (
              <Button
                key={l.id}
                variant="outline-secondary"
                active={layout === l.id}
                aria-pressed={layout === l.id}
                title={l.help}
                onClick={() => set({ layout: l.id })}
              >
                {l.label}
              </Button>
            ))}
          </ButtonGroup>
        )}
        {side && side.bounds.length > 0 && (
          <span className="grid-note">
            {within > 0 && `drawn within ${withinText(within, which, side)} · `}
            square {which === 'near' && side.heightDoubtful ? `${square} units` : metres(square)}
          </span>
        )}
      </div>
    </section>
  );
}

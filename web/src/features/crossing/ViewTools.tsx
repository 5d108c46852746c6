import { useQuery } from '@tanstack/react-query';
import { ButtonGroup, Form } from 'react-bootstrap';
import type { SideView } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { type PickMode, SHADINGS, useView } from '../../view3d/viewState';
import { ChannelTool, LightTool } from './LightTools';

export const PICKS: { id: PickMode; label: string; help: string }[] = [
  { id: 'part', label: 'Parts', help: 'A click picks a part' },
  { id: 'face', label: 'Faces', help: 'A click picks a face; with Ctrl more of them' },
  { id: 'vertex', label: 'Vertices', help: 'A click picks the nearest vertex of a face' },
  {
    id: 'pivot',
    label: 'Pivot',
    help: 'A click in the far view puts the pivot of the selected parts there',
  },
];

interface Props {
  id: string;
  side: SideView | undefined;
  rigged: boolean;
}

/** What both views show: shading, skeleton, lights, backdrop, and the camera to look through. */
export function ViewTools({ id, side, rigged }: Props) {
  const shading = useView((s) => s.shading);
  const skeleton = useView((s) => s.skeleton);
  const showHidden = useView((s) => s.showHidden);
  const pickMode = useView((s) => s.pickMode);
  const set = useView((s) => s.set);
  const choices = SHADINGS.filter((s) => rigged || s.id !== 'weights');
  return (
    <>
      <Form.Select
        size="sm"
        aria-label="Shading"
        title="How surfaces are drawn (X: next)"
        value={shading}
        onChange={(e) => set({ shading: e.target.value as typeof shading })}
      >
        {choices.map((s) => (
          <option key={s.id} value={s.id} title={s.help}>
            {s.label}
          </option>
        ))}
      </Form.Select>
      <ChannelTool side={side} />
      <ButtonGroup aria-label="A click picks">
        {PICKS.map((p) => (
          <Button
            key={p.id}
            variant="outline-secondary"
            active={pickMode === p.id}
            aria-pressed={pickMode === p.id}
            title={`${p.help} (K: next)`}
            onClick={() => set({ pickMode: p.id, picks: [] })}
          >
            {p.label}
          </Button>
        ))}
      </ButtonGroup>
      {rigged && (
        <Button
          variant="outline-secondary"
          active={skeleton}
          aria-pressed={skeleton}
          title="Joints and the lines between them (J)"
          onClick={() => set({ skeleton: !skeleton })}
        >
          Skeleton
        </Button>
      )}
      {(side?.nodes ?? []).some((n) => !n.drawn) && (
        <Button
          variant="outline-secondary"
          active={showHidden}
          aria-pressed={showHidden}
          title="Draw what the file hides too, with stand-ins and guides"
          onClick={() => set({ showHidden: !showHidden })}
        >
          Hidden too
        </Button>
      )}
      {(side?.nodes ?? []).some((n) => n.level >= 0) && <LevelChoice side={side} />}
      <LightTool side={side} />
      {(side?.cameras.length ?? 0) > 0 && <CameraChoice side={side} />}
      <BackdropChoice id={id} />
    </>
  );
}

/** Another crossing to stand in at its true size. */
function BackdropChoice({ id }: { id: string }) {
  const backdrop = useView((s) => s.backdrop);
  const set = useView((s) => s.set);
  const crossings = useQuery(queries.crossings());
  const others = (crossings.data ?? []).filter((c) => c.id !== id && c.state === 'ready');
  if (others.length === 0) {
    return null;
  }
  return (
    <Form.Select
      size="sm"
      className="backdrop-choice"
      aria-label="Backdrop"
      title="Shows another crossing behind this one, at its true size"
      value={others.some((c) => c.id === backdrop) ? (backdrop ?? '') : ''}
      onChange={(e) => set({ backdrop: e.target.value || null })}
    >
      <option value="">No backdrop</option>
      {others.map((c) => (
        <option key={c.id} value={c.id}>
          {c.name}
        </option>
      ))}
    </Form.Select>
  );
}

/** One level of detail groups at a time, or all of them. */
function LevelChoice({ side }: { side: SideView | undefined }) {
  const level = useView((s) => s.level);
  const set = useView((s) => s.set);
  const count = 1 + Math.max(-1, ...(side?.nodes ?? []).map((n) => n.level));
  return (
    <Form.Select
      size="sm"
      aria-label="Detail level"
      title="Which detail level both views show"
      value={level}
      onChange={(e) => set({ level: Number(e.target.value) })}
    >
      {Array.from({ length: count }, (_, i) => (
        <option key={i} value={i}>
          Level {i + 1} of {count}
        </option>
      ))}
      <option value={-1}>All levels</option>
    </Form.Select>
  );
}

/** The free view, or one of the file's cameras. */
function CameraChoice({ side }: { side: SideView | undefined }) {
  const through = useView((s) => s.lookThrough);
  const set = useView((s) => s.set);
  return (
    <Form.Select
      size="sm"
      aria-label="Camera"
      title="Look through a camera of the file; turning the view leaves it"
      value={through ?? ''}
      onChange={(e) => set({ lookThrough: e.target.value ? Number(e.target.value) : null })}
    >
      <option value="">Free view</option>
      {side?.cameras.map((c) => (
        <option key={c.nodeId} value={c.nodeId}>
          {c.name || '(no name)'}
          {c.angle > 0 ? '' : ', parallel'}
        </option>
      ))}
    </Form.Select>
  );
}

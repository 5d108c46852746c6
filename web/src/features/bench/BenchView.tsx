import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ButtonGroup, Form } from 'react-bootstrap';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import type { BoxPoint } from '../../view3d/data/pivots';
import { SideCanvas } from '../../view3d/SideCanvas';
import { useChanging } from '../../view3d/useChanging';
import type { Deviations } from '../../view3d/useDeviation';
import { useMeshes } from '../../view3d/useMeshes';
import { type Side, useView } from '../../view3d/viewState';
import { ChannelTool, LightTool } from '../crossing/LightTools';

const NO_HANDLES: BoxPoint[] = [];
const NO_DEVIATIONS: Deviations = { byNode: new Map(), most: 0, ready: false };

interface Props {
  id: string;
  revision: number;
  /** A click on a part of the model. */
  onPart: (nodeId: number) => void;
}

/** The model beside the bench; the chosen material stands out. */
export function BenchView({ id, revision, onPart }: Props) {
  const [which, setWhich] = useState<Side>('far');
  const lit = useView((s) => s.lit);
  const shading = useView((s) => s.shading);
  const set = useView((s) => s.set);
  const near = useQuery(queries.near(id));
  const far = useQuery({
    ...queries.far(id, revision, null),
    placeholderData: (before) => before,
  });
  const side = useChanging(id, which === 'near' ? near.data : far.data);
  const meshes = useMeshes(id, side, 'none');
  return (
    <section className="view bench-view" data-ready={meshes.ready} aria-label="Model">
      {side && meshes.ready && (
        <SideCanvas
          crossingId={id}
          which={which}
          side={side}
          meshes={meshes}
          marks={undefined}
          motion={null}
          deviations={NO_DEVIATIONS}
          backdrop={null}
          handles={NO_HANDLES}
          onPick={(node) => node !== null && onPart(node)}
        />
      )}
      <div className="view-foot">
        <ButtonGroup aria-label="Side">
          {(['near', 'far'] as const).map((s) => (
            <Button
              key={s}
              variant="outline-secondary"
              active={which === s}
              aria-pressed={which === s}
              onClick={() => setWhich(s)}
            >
              {s === 'near' ? 'Near' : 'Far'}
            </Button>
          ))}
        </ButtonGroup>
        <Form.Select
          size="sm"
          aria-label="Shading"
          value={shading === 'channel' ? 'channel' : 'surface'}
          onChange={(e) => set({ shading: e.target.value as typeof shading })}
        >
          <option value="surface">Surface</option>
          <option value="channel">One channel</option>
        </Form.Select>
        <ChannelTool side={side} />
        {shading !== 'channel' && <LightTool side={side} />}
        <Button
          variant="outline-secondary"
          disabled={lit === null}
          onClick={() => set({ lit: null })}
        >
          All materials
        </Button>
      </div>
    </section>
  );
}

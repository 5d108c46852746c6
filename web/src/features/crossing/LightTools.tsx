import { Form } from 'react-bootstrap';
import type { SideView } from '../../api/client';
import { channelsOf } from '../../view3d/material/channels';
import { type LightChoice, useView } from '../../view3d/viewState';

interface Props {
  side: SideView | undefined;
}

const LIGHTS: { id: LightChoice; label: string }[] = [
  { id: 'even', label: 'Even light' },
  { id: 'surroundings', label: 'Surroundings' },
  { id: 'own', label: 'Its lights' },
];

/** What lights both views. */
export function LightTool({ side }: Props) {
  const light = useView((s) => s.light);
  const set = useView((s) => s.set);
  const own = (side?.lights.length ?? 0) > 0;
  return (
    <Form.Select
      size="sm"
      aria-label="Light"
      title="What lights both views: an even set, a quay around the asset that metal mirrors, or the file's own lights (O: next)"
      value={light === 'own' && !own ? 'even' : light}
      onChange={(e) => set({ light: e.target.value as LightChoice })}
    >
      {LIGHTS.filter((l) => own || l.id !== 'own').map((l) => (
        <option key={l.id} value={l.id}>
          {l.label}
        </option>
      ))}
    </Form.Select>
  );
}

/** Which channel is shown, while one is shown alone. */
export function ChannelTool({ side }: Props) {
  const shading = useView((s) => s.shading);
  const channel = useView((s) => s.channel);
  const set = useView((s) => s.set);
  if (shading !== 'channel') {
    return null;
  }
  return (
    <Form.Select
      size="sm"
      aria-label="Channel"
      title="The channel of the materials that both views show, as its images and numbers are"
      value={channel}
      onChange={(e) => set({ channel: e.target.value })}
    >
      {channelsOf(side?.materials ?? []).map((c) => (
        <option key={c.id} value={c.id}>
          {c.label}
        </option>
      ))}
    </Form.Select>
  );
}

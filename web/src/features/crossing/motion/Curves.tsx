import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ButtonGroup } from 'react-bootstrap';
import type { SideView } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { useTime } from '../../../view3d/data/time';
import { useView } from '../../../view3d/viewState';
import { type CurveLine, GROUPS, pathOf, spanOf, valueAt } from './curveLines';
import { HEIGHT, Plot, WIDTH, xOf } from './Plot';

const INKS = ['var(--teal)', 'var(--loss)', 'var(--ink)', 'var(--change)', 'var(--kept)'];
const DASHES = ['', '7 4', '2 3'];

interface Props {
  id: string;
  nodes: SideView['nodes'];
  revision: number;
}

/** The clip's curves on the selected part: near thin, far thick, the moment as a line. */
export function Curves({ id, nodes, revision }: Props) {
  const { clip, seconds, start, end } = useTime();
  const selected = useView((s) => s.selected);
  const [chosen, setChosen] = useState('place');
  const node = selected.length === 1 ? (selected[0] ?? null) : null;
  const enabled = clip !== null && node !== null;
  const near = useQuery({ ...queries.curves(id, 'near', clip ?? 0, node ?? 0, 0), enabled });
  const far = useQuery({ ...queries.curves(id, 'far', clip ?? 0, node ?? 0, revision), enabled });
  const nearLines = near.data?.lines ?? [];
  const farLines = far.data?.lines ?? [];
  const groups = GROUPS.filter((g) => [...nearLines, ...farLines].some((l) => l.group === g.id));
  const group = groups.find((g) => g.id === chosen) ?? groups[0];
  const own = (lines: CurveLine[]) => lines.filter((l) => l.group === group?.id);
  const span = spanOf([...own(nearLines), ...own(farLines)]);
  const part = end > start ? (seconds - start) / (end - start) : 0;
  const name = nodes.find((n) => n.id === node)?.name ?? '';
  const hint =
    clip === null
      ? 'Choose a clip to see its curves.'
      : node === null
        ? 'Select one part to see how the clip moves it.'
        : near.isSuccess && groups.length === 0
          ? `“${name}” has no curve of its own in this clip; what it hangs on may move it.`
          : null;
  if (hint) {
    return <section className="curves curves-none">{hint}</section>;
  }
  return (
    <section className="curves" aria-label="Curves">
      <div className="curves-side">
        <b className="text-truncate">{name}</b>
        <ButtonGroup aria-label="What moves">
          {groups.map((g) => (
            <Button
              key={g.id}
              variant="outline-secondary"
              active={g.id === group?.id}
              aria-pressed={g.id === group?.id}
              onClick={() => setChosen(g.id)}
            >
              {g.label}
            </Button>
          ))}
        </ButtonGroup>
        <span className="quiet">near thin, far thick</span>
      </div>
      <div className="curves-plot">
        <Plot label={`Curves of ${name}`}>
          {own(nearLines).map((l, i) => (
            <Line key={`near ${l.name}`} line={l} place={i} span={span} width={1} />
          ))}
          {own(farLines).map((l, i) => (
            <Line key={`far ${l.name}`} line={l} place={i} span={span} width={2.2} />
          ))}
          {own(farLines)
            .slice(0, 1)
            .flatMap((l) => l.keys)
            .map((t) => {
              const x = xOf(t, start, end);
              return <line key={t} className="key" x1={x} x2={x} y1={HEIGHT - 5} y2={HEIGHT} />;
            })}
        </Plot>
        <span className="high">{figure(span[1])}</span>
        <span className="low">{figure(span[0])}</span>
      </div>
      <dl className="curves-values">
        {own(farLines).map((l, i) => (
          <div key={l.name}>
            <dt style={{ color: INKS[i % INKS.length] }}>
              <svg width={22} height={6} aria-hidden="true">
                <line
                  x1={0}
                  x2={22}
                  y1={3}
                  y2={3}
                  stroke="currentColor"
                  strokeWidth={2}
                  strokeDasharray={DASHES[i % DASHES.length]}
                />
              </svg>
              {l.name}
            </dt>
            <dd>
              {valueAt(l.values, part).toFixed(l.unit === '°' || l.unit === '%' ? 1 : 3)} {l.unit}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function figure(value: number): string {
  return Number(value.toPrecision(3)).toString();
}

interface LineProps {
  line: CurveLine;
  place: number;
  span: [number, number];
  width: number;
}

function Line({ line, place, span, width }: LineProps) {
  return (
    <path
      d={pathOf(line.values, span, WIDTH, HEIGHT)}
      fill="none"
      stroke={INKS[place % INKS.length]}
      strokeWidth={width}
      strokeDasharray={DASHES[place % DASHES.length]}
      vectorEffect="non-scaling-stroke"
    />
  );
}

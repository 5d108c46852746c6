import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router-dom';
import { queries } from '../../api/queries';
import { openCount } from './survey/solved';

export type Stop = 'cargo' | 'survey' | 'handling' | 'landing' | 'proof';

export const STOPS: { id: Stop; label: string }[] = [
  { id: 'cargo', label: 'Cargo' },
  { id: 'survey', label: 'Survey' },
  { id: 'handling', label: 'Handling' },
  { id: 'landing', label: 'Landing' },
  { id: 'proof', label: 'Proof' },
];

interface Props {
  id: string;
  stop: Stop;
  ready: boolean;
}

/** The route: five stops, any order; a number where something needs attention. */
export function RouteLine({ id, stop, ready }: Props) {
  const cargo = useQuery({ ...queries.cargo(id, 'ready'), enabled: ready });
  const survey = useQuery({ ...queries.survey(id), enabled: ready });
  const handling = useQuery({ ...queries.handling(id), enabled: ready });
  const landings = useQuery({ ...queries.landings(id), enabled: ready });
  const missing = new Set(
    (cargo.data?.references ?? []).filter((r) => r.found === null).map((r) => r.written),
  ).size;
  const failed = (handling.data?.steps ?? []).filter((s) => s.failure !== null).length;
  const proved = landings.data?.find((l) => l.state === 'done');
  const marks: Record<Stop, { done: boolean; care: number }> = {
    cargo: { done: ready, care: missing },
    survey: {
      done: ready,
      care: survey.data ? openCount(survey.data.findings, 'FIX') : 0,
    },
    handling: { done: (handling.data?.steps.length ?? 0) > 0, care: failed },
    landing: { done: proved !== undefined, care: 0 },
    proof: { done: proved !== undefined, care: proved?.proof?.lost ?? 0 },
  };
  return (
    <nav aria-label="Route">
      <ol className="route">
        {STOPS.map((s) => {
          const mark = marks[s.id];
          return (
            <li key={s.id} className={mark.care > 0 ? 'care' : mark.done ? 'done' : ''}>
              <Link
                to={`/crossings/${id}/${s.id}${window.location.search}`}
                aria-current={s.id === stop ? 'page' : undefined}
              >
                {s.label} {mark.care > 0 && <b>{mark.care}</b>}
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

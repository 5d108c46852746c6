import { useQuery } from '@tanstack/react-query';
import { type KeyboardEvent, type PointerEvent, useEffect, useState } from 'react';
import type { Crossing } from '../../api/client';
import { queries } from '../../api/queries';
import { useView } from '../../view3d/viewState';
import { CargoTable } from './cargo/CargoTable';
import { HandlingTable } from './handling/HandlingTable';
import { LandingForm } from './landing/LandingForm';
import { ProofLedger } from './proof/ProofLedger';
import { chosen, fitting, keep, LOWEST, standard, tallest } from './quaysideHeight';
import type { Stop } from './RouteLine';
import { SurveyStop } from './survey/SurveyStop';
import './quayside.css';

const STEP = 30;

/** What the lower edge of the page takes. */
const BELOW = 24;

interface Props {
  id: string;
  stop: Stop;
  crossing: Crossing;
}

/** The table that the stop is about, below the views; its upper edge can be dragged. */
export function Quayside({ id, stop, crossing }: Props) {
  const shown = ready(crossing) ? stop : 'cargo';
  const [choices, setChoices] = useState(() => chosen(localStorage));
  const openStone = useView((s) => s.openStone);
  const handling = useQuery({ ...queries.handling(id), enabled: ready(crossing) });
  const open = handling.data?.steps.find((s) => s.step.id === openStone)?.step.kind;
  // What a step shows in the table needs the table's room, and its form scrolls.
  const formOpen = openStone !== null && !(shown === 'handling' && open === 'putLook');
  const [room, setRoom] = useState(window.innerHeight);
  useEffect(() => {
    const resized = () => setRoom(window.innerHeight);
    window.addEventListener('resize', resized);
    return () => window.removeEventListener('resize', resized);
  }, []);
  const height = fitting(choices[shown] ?? standard(shown, room, formOpen), room);
  const choose = (wanted: number | null) => {
    const next = wanted === null ? null : fitting(wanted, room);
    keep(localStorage, shown, next);
    setChoices({ ...choices, [shown]: next ?? undefined });
  };
  const drag = (e: PointerEvent) => {
    if (e.buttons) {
      choose(room - BELOW - e.clientY);
    }
  };
  const press = (e: KeyboardEvent) => {
    const heights: Record<string, number | null> = {
      ArrowUp: height + STEP,
      ArrowDown: height - STEP,
      PageUp: tallest(room),
      PageDown: LOWEST,
      Home: null,
    };
    if (e.key in heights) {
      e.preventDefault();
      choose(heights[e.key] ?? null);
    }
  };
  return (
    <section className="quayside" style={{ height }} aria-label="Quayside">
      <div
        role="separator"
        tabIndex={0}
        className="quayside-edge"
        aria-orientation="horizontal"
        aria-label="Height of the table"
        aria-valuenow={height}
        aria-valuemin={LOWEST}
        aria-valuemax={tallest(room)}
        title="Drag, or use the arrow keys; Home or a double click fits it to the stop"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={drag}
        onDoubleClick={() => choose(null)}
        onKeyDown={press}
      />
      {shown === 'cargo' ? (
        <CargoTable id={id} crossing={crossing} />
      ) : shown === 'survey' ? (
        <SurveyStop crossing={crossing} />
      ) : shown === 'handling' ? (
        <HandlingTable id={id} />
      ) : shown === 'landing' ? (
        <LandingForm id={id} />
      ) : (
        <ProofLedger id={id} crossing={crossing} />
      )}
    </section>
  );
}

function ready(crossing: Crossing): boolean {
  return crossing.state === 'ready';
}

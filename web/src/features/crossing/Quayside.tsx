import { type PointerEvent, useState } from 'react';
import type { Crossing } from '../../api/client';
import { CargoTable } from './cargo/CargoTable';
import { HandlingTable } from './handling/HandlingTable';
import { LandingForm } from './landing/LandingForm';
import { ProofLedger } from './proof/ProofLedger';
import type { Stop } from './RouteLine';
import { SurveyStop } from './survey/SurveyStop';

const LOWEST = 90;
const STANDARD = 236;

interface Props {
  id: string;
  stop: Stop;
  crossing: Crossing;
}

/** The table that the stop is about, below the views; its upper edge can be dragged. */
export function Quayside({ id, stop, crossing }: Props) {
  const [height, setHeight] = useState(STANDARD);
  const ready = crossing.state === 'ready';
  const drag = (e: PointerEvent<HTMLButtonElement>) => {
    if (e.buttons) {
      const most = window.innerHeight - 240;
      setHeight(Math.max(LOWEST, Math.min(most, window.innerHeight - 24 - e.clientY)));
    }
  };
  return (
    <section className="quayside" style={{ height }} aria-label="Quayside">
      <button
        type="button"
        className="quayside-edge"
        aria-label="Height of the table; arrow keys change it"
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={drag}
        onDoubleClick={() => setHeight(STANDARD)}
        onKeyDown={(e) => {
          const step = e.key === 'ArrowUp' ? 30 : e.key === 'ArrowDown' ? -30 : 0;
          setHeight((h) => Math.max(LOWEST, Math.min(window.innerHeight - 240, h + step)));
        }}
      />
      {stop === 'cargo' || !ready ? (
        <CargoTable id={id} crossing={crossing} />
      ) : stop === 'survey' ? (
        <SurveyStop crossing={crossing} />
      ) : stop === 'handling' ? (
        <HandlingTable id={id} />
      ) : stop === 'landing' ? (
        <LandingForm id={id} />
      ) : (
        <ProofLedger id={id} crossing={crossing} />
      )}
    </section>
  );
}

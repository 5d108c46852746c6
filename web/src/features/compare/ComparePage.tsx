import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { useSearchParams } from 'react-router-dom';
import type { Crossing } from '../../api/client';
import { queries } from '../../api/queries';
import { type Incoming, newCrossing } from '../../api/upload';
import { Button } from '../../shared/Button';
import { FileInputs } from '../../shared/FileInputs';
import { complain } from '../../shared/Notices';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import { usePageDrop } from '../../shared/usePageDrop';
import { assetsOf } from '../batches/assetsOf';
import { endings } from '../batches/endings';
import { PairFacts } from './PairFacts';
import '../quay/quay.css';
import './compare.css';

/** Any two assets held against each other: from the quay, or dropped here. */
export default function ComparePage() {
  const [asked, setAsked] = useSearchParams();
  const client = useQueryClient();
  const crossings = useQuery(queries.crossings()).data ?? [];
  const ready = crossings.filter((c) => c.state === 'ready');
  const shores = useQuery(queries.shores()).data ?? [];
  const files = useRef<HTMLInputElement>(null);
  const [bringing, setBringing] = useState('');
  const set = (change: Record<string, string>) =>
    setAsked(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, value] of Object.entries(change)) {
          if (value) {
            next.set(name, value);
          } else {
            next.delete(name);
          }
        }
        return next;
      },
      { replace: true },
    );
  const first = asked.get('first') ?? '';
  const second = asked.get('second') ?? '';
  const take = async (incoming: Incoming[]) => {
    const of = endings(await client.ensureQueryData(queries.formats()));
    const assets = assetsOf(incoming, of.scenes, of.caches);
    if (assets.length === 0 || assets.length > 2) {
      complain(
        new Error(
          assets.length === 0
            ? 'There is no scene file in what was dropped.'
            : `Two assets are compared; ${assets.length} were dropped.`,
        ),
      );
      return;
    }
    const brought: string[] = [];
    try {
      for (const asset of assets) {
        setBringing(asset.name);
        const none = new AbortController().signal;
        const crossing = await newCrossing(asset.files, none, () => undefined, asset.name);
        brought.push(crossing.id);
      }
    } catch (error) {
      complain(error);
    } finally {
      setBringing('');
      await client.invalidateQueries({ queryKey: ['crossings'] });
    }
    const [one, two] = brought;
    if (one && two) {
      set({ first: one, second: two, match: '', firstClip: '', secondClip: '' });
    } else if (one) {
      set(
        first
          ? { second: one, match: '' }
          : { first: one, match: '', firstClip: '', secondClip: '' },
      );
    }
  };
  const over = usePageDrop(take);
  const waiting = [first, second].some((id) => id && !ready.some((c) => c.id === id));
  return (
    <div className="screen">
      <TopLine left={<ScreenNav />} />
      <main className="quay-list">
        <div className="quay-head">
          <h1>Compare two assets</h1>
          <span className="quiet">Are they the same, and what differs where?</span>
        </div>
        <div className={`slip slip-line ${over ? 'slip-over' : ''}`}>
          <span>
            {bringing
              ? `Bringing ${bringing} …`
              : 'Drop two files, or one to hold against what is chosen; or choose from the quay.'}
          </span>
          <Button variant="outline-secondary" onClick={() => files.current?.click()}>
            Choose files
          </Button>
        </div>
        <FileInputs take={take} files={files} />
        <div className="pair-sides">
          <SideChoice
            label="First"
            crossings={ready}
            chosen={first}
            state={asked.get('firstState') ?? 'near'}
            onChange={(id) => set({ first: id, match: '', firstClip: '', secondClip: '' })}
            onState={(state) => set({ firstState: state })}
          />
          <SideChoice
            label="Second"
            crossings={ready}
            chosen={second}
            state={asked.get('secondState') ?? 'near'}
            onChange={(id) => set({ second: id, match: '', firstClip: '', secondClip: '' })}
            onState={(state) => set({ secondState: state })}
          />
          <Form.Group controlId="judged">
            <Form.Label>What may differ</Form.Label>
            <Form.Select
              size="sm"
              value={asked.get('shore') ?? ''}
              onChange={(e) => set({ shore: e.target.value })}
            >
              <option value="">nothing</option>
              {shores.map(({ shore }) => (
                <option key={shore.id} value={shore.id}>
                  what {shore.name} lets differ
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="together">
            <Form.Label>The second stands</Form.Label>
            <Form.Select
              size="sm"
              value={asked.get('together') ?? 'AS_THEY_ARE'}
              onChange={(e) => set({ together: e.target.value })}
            >
              <option value="AS_THEY_ARE">where it says</option>
              <option value="ROOTS">with its root on the first’s</option>
              <option value="BASES">with the middle of its base on the first’s</option>
            </Form.Select>
          </Form.Group>
        </div>
        {first && second && waiting && <p className="quiet">Reading what was brought …</p>}
        {first && second && !waiting && <PairFacts asked={asked} onSet={set} />}
      </main>
      <footer className="lower-edge">
        <span>What is brought here stands on the quay too.</span>
      </footer>
    </div>
  );
}

interface SideProps {
  label: string;
  crossings: Crossing[];
  chosen: string;
  state: string;
  onChange: (id: string) => void;
  onState: (state: string) => void;
}

function SideChoice({ label, crossings, chosen, state, onChange, onState }: SideProps) {
  const id = label.toLowerCase();
  const crossing = crossings.find((c) => c.id === chosen);
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <div className="pair-side">
        {crossing?.thumbnail ? (
          <img className="thumb" alt="" src={`/api/crossings/${crossing.id}/thumbnail`} />
        ) : (
          <span className="thumb" />
        )}
        <div>
          <Form.Select size="sm" value={chosen} onChange={(e) => onChange(e.target.value)}>
            <option value="">choose an asset</option>
            {crossings.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </Form.Select>
          <Form.Select
            size="sm"
            className="mt-1"
            aria-label={`${label}: which side`}
            value={state}
            onChange={(e) => onState(e.target.value)}
          >
            <option value="near">as it was read</option>
            <option value="now">its far side, with all steps</option>
          </Form.Select>
        </div>
      </div>
    </Form.Group>
  );
}

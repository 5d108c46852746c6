import { useEffect, useState } from 'react';
import { Form } from 'react-bootstrap';
import type { SideView } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { useKeys } from '../../../shared/useKeys';
import { frameOf, SPEEDS, useTime } from '../../../view3d/data/time';
import { useView } from '../../../view3d/viewState';
import { Apart } from './Apart';
import { Curves } from './Curves';
import { Tracks } from './Tracks';
import './motion.css';

const TICKS = 7;

type Lines = '' | 'curves' | 'tracks' | 'apart';

/** What stands above the time line. */
const LINES: { id: Lines; label: string }[] = [
  { id: '', label: 'No lines' },
  { id: 'curves', label: 'Curves' },
  { id: 'tracks', label: 'Tracks' },
  { id: 'apart', label: 'Apart' },
];

interface Props {
  id: string;
  near: SideView | undefined;
  revision: number;
}

/** Clip, play, scrub, range, speed, loop and curves: shown when there is motion. */
export function Timeline({ id, near, revision }: Props) {
  const clips = near?.clips ?? [];
  const rigged = (near?.skins.length ?? 0) > 0;
  const [lines, setLines] = useState<Lines>('');
  const s = useTime();
  const pose = useView((v) => v.pose);
  const setView = useView((v) => v.set);
  const frame = frameOf(s);
  const clip = clips.find((c) => c.id === s.clip);

  // A crossing opens in its rest pose; a clip that is gone is let go.
  useEffect(() => {
    if (s.clip !== null && !clip) {
      s.open(null);
    }
  }, [s, clip]);
  useEffect(() => {
    if (!s.playing) {
      return;
    }
    let last = performance.now();
    let request = requestAnimationFrame(function next(now) {
      useTime.getState().advance(Math.min(0.25, (now - last) / 1000));
      last = now;
      request = requestAnimationFrame(next);
    });
    return () => cancelAnimationFrame(request);
  }, [s.playing]);
  const play = () => {
    if (clips.length === 0) {
      return;
    }
    setView({ pose: 'clip' });
    if (s.clip === null) {
      s.open(clips[0] ?? null);
    } else if (!s.playing && frame >= s.range[1]) {
      s.toFrame(s.range[0]);
    }
    s.set({ playing: !s.playing });
  };
  useKeys({
    p: play,
    b: () => s.step(-1),
    n: () => s.step(1),
    v: () => setLines(LINES[(LINES.findIndex((l) => l.id === lines) + 1) % LINES.length]?.id ?? ''),
  });
  if (clips.length === 0 && !rigged) {
    return null;
  }
  return (
    <>
      {lines === 'curves' && <Curves id={id} nodes={near?.nodes ?? []} revision={revision} />}
      {lines === 'tracks' && <Tracks id={id} revision={revision} />}
      {lines === 'apart' && <Apart id={id} nodes={near?.nodes ?? []} revision={revision} />}
      <section className="timeline" aria-label="Timeline">
        <Form.Select
          size="sm"
          aria-label="Clip"
          value={pose === 'bind' ? 'bind' : (s.clip ?? '')}
          onChange={(e) => {
            setView({ pose: e.target.value === 'bind' ? 'bind' : 'clip' });
            s.open(clips.find((c) => String(c.id) === e.target.value) ?? null);
          }}
        >
          <option value="">Rest pose</option>
          {rigged && <option value="bind">Bind pose</option>}
          {clips.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name || '(no name)'}
            </option>
          ))}
        </Form.Select>
        <Button
          variant="outline-secondary"
          onClick={play}
          disabled={clips.length === 0}
          title="Play or stop (P)"
        >
          {s.playing ? 'Stop' : 'Play'}
        </Button>
        <Button
          variant="outline-secondary"
          disabled={!clip}
          onClick={() => s.step(-1)}
          title="One frame back (B)"
          aria-label="One frame back"
        >
          −1
        </Button>
        <Button
          variant="outline-secondary"
          disabled={!clip}
          onClick={() => s.step(1)}
          title="One frame on (N)"
          aria-label="One frame on"
        >
          +1
        </Button>
        <div className="track">
          <div className="ticks" aria-hidden="true">
            {clip && <Ticks start={s.start} end={s.end} />}
          </div>
          <Form.Range
            aria-label="Frame"
            disabled={!clip}
            min={0}
            max={Math.max(1, s.frames - 1)}
            step={1}
            value={clip ? frame : 0}
            onChange={(e) => {
              s.set({ playing: false });
              s.toFrame(Number(e.target.value));
            }}
          />
          {clip && (
            <div
              className="range"
              style={{
                left: `${(100 * s.range[0]) / Math.max(1, s.frames - 1)}%`,
                right: `${100 - (100 * s.range[1]) / Math.max(1, s.frames - 1)}%`,
              }}
            />
          )}
        </div>
        <output className="moment">
          {clip
            ? `${s.seconds.toFixed(2)} s · frame ${frame} of ${s.frames - 1}`
            : pose === 'bind'
              ? 'bind pose'
              : 'rest pose'}
        </output>
        <RangeField which={0} label="From" />
        <RangeField which={1} label="To" />
        <Form.Select
          size="sm"
          aria-label="Speed"
          value={s.speed}
          onChange={(e) => s.set({ speed: Number(e.target.value) })}
        >
          {SPEEDS.map((v) => (
            <option key={v} value={v}>
              × {v}
            </option>
          ))}
        </Form.Select>
        <Form.Check
          type="checkbox"
          id="loop"
          label="Loop"
          checked={s.loop}
          onChange={(e) => s.set({ loop: e.target.checked })}
        />
        <Form.Select
          size="sm"
          aria-label="Lines"
          title="Curves of the selected part, tracks of all, or how far both views lie apart (V)"
          disabled={clips.length === 0}
          value={lines}
          onChange={(e) => setLines(e.target.value as Lines)}
        >
          {LINES.map((l) => (
            <option key={l.id} value={l.id}>
              {l.label}
            </option>
          ))}
        </Form.Select>
      </section>
    </>
  );
}

function Ticks({ start, end }: { start: number; end: number }) {
  const raw = (end - start) / TICKS;
  const step = [0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10, 30, 60].find((v) => v >= raw) ?? 120;
  const ticks: number[] = [];
  for (let t = Math.ceil(start / step) * step; t <= end + 1e-9; t += step) {
    ticks.push(t);
  }
  return ticks.map((t) => (
    <i key={t} style={{ left: `${(100 * (t - start)) / Math.max(1e-9, end - start)}%` }}>
      {Number(t.toFixed(2))}
    </i>
  ));
}

function RangeField({ which, label }: { which: 0 | 1; label: string }) {
  const { range, frames, clip, set } = useTime();
  return (
    <div className="range-field">
      <label htmlFor={`range-${which}`}>{label}</label>
      <Form.Control
        id={`range-${which}`}
        size="sm"
        type="number"
        min={which === 0 ? 0 : range[0]}
        max={which === 0 ? range[1] : frames - 1}
        disabled={clip === null}
        value={range[which]}
        onChange={(e) => {
          const value = Math.max(0, Math.min(frames - 1, Math.round(Number(e.target.value))));
          set({
            range:
              which === 0
                ? [Math.min(value, range[1]), range[1]]
                : [range[0], Math.max(value, range[0])],
          });
        }}
      />
    </div>
  );
}

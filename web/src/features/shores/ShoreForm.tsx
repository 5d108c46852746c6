import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Shore, ShoreView } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { BUDGETS, TOLERANCES, WISHES } from './shoreWords';

const AXES: { value: Shore['frame']['up']; label: string }[] = [
  { value: 'PLUS_X', label: 'X' },
  { value: 'MINUS_X', label: '−X' },
  { value: 'PLUS_Y', label: 'Y' },
  { value: 'MINUS_Y', label: '−Y' },
  { value: 'PLUS_Z', label: 'Z' },
  { value: 'MINUS_Z', label: '−Z' },
];

interface Props {
  view: ShoreView;
  onCopy: () => void;
  onSave: (shore: Shore) => void;
  onDelete: () => void;
}

/** Everything a shore asks for; built-in ones are shown, one's own can be changed. */
export function ShoreForm({ view, onCopy, onSave, onDelete }: Props) {
  const [shore, setShore] = useState(view.shore);
  const formats = useQuery(queries.formats()).data ?? [];
  const fixed = view.builtIn;
  const changed = JSON.stringify(shore) !== JSON.stringify(view.shore);
  const set = (change: Partial<Shore>) => setShore((s) => ({ ...s, ...change }));
  const frame = (change: Partial<Shore['frame']>) => set({ frame: { ...shore.frame, ...change } });
  const reason = (name: string) => shore.reasons[name];
  return (
    <Form
      onSubmit={(e) => {
        e.preventDefault();
        onSave(shore);
      }}
    >
      <div className="quay-head">
        <h1>{view.shore.name}</h1>
        <span className="ms-auto d-flex gap-2">
          {!fixed && (
            <Button type="submit" disabled={!changed}>
              Save
            </Button>
          )}
          <Button variant="outline-secondary" onClick={onCopy}>
            Copy
          </Button>
          <Button variant="outline-secondary" href={`/api/shores/${view.shore.id}/file`}>
            Take as a file
          </Button>
          {!fixed && (
            <Button variant="outline-secondary" onClick={onDelete}>
              Delete
            </Button>
          )}
        </span>
      </div>
      <fieldset disabled={fixed} className="shore-grid">
        <section>
          <h2 className="caps">Name and use</h2>
          <Text label="Name" value={shore.name} onChange={(name) => set({ name })} />
          <Row label="For">
            <Form.Control
              as="textarea"
              rows={3}
              size="sm"
              value={shore.note}
              onChange={(e) => set({ note: e.target.value })}
            />
          </Row>
        </section>
        <section>
          <h2 className="caps">Unit and axes</h2>
          <Row label="Metres a unit">
            <Form.Control
              size="sm"
              type="number"
              step="any"
              min={0}
              value={shore.frame.metresPerUnit}
              onChange={(e) => frame({ metresPerUnit: Number(e.target.value) })}
            />
          </Row>
          <Row label="Up">
            <Axis value={shore.frame.up} onChange={(up) => frame({ up })} />
          </Row>
          <Row label="Front">
            <Axis value={shore.frame.front} onChange={(front) => frame({ front })} />
          </Row>
          <Row label="Hand">
            <Form.Select
              size="sm"
              value={shore.frame.handedness}
              onChange={(e) =>
                frame({ handedness: e.target.value as Shore['frame']['handedness'] })
              }
            >
              <option value="RIGHT">right-handed</option>
              <option value="LEFT">left-handed</option>
            </Form.Select>
          </Row>
          <Reason text={reason('frame')} />
        </section>
        <section>
          <h2 className="caps">Formats, the best first</h2>
          {formats
            .filter((f) => f.writes)
            .map(({ key, label }) => (
              <Form.Check
                key={key}
                id={`format-${key}`}
                type="checkbox"
                label={`${label}${shore.formats[0] === key ? ', the best' : ''}`}
                checked={shore.formats.includes(key)}
                onChange={(e) =>
                  set({
                    formats: e.target.checked
                      ? [...shore.formats, key]
                      : shore.formats.filter((f) => f !== key),
                  })
                }
              />
            ))}
          <h2 className="caps mt-3">Wishes</h2>
          {WISHES.map((w) => (
            <div key={w.name}>
              <Form.Check
                id={`wish-${w.name}`}
                type="checkbox"
                label={w.label}
                checked={shore.wishes[w.name]}
                onChange={(e) => set({ wishes: { ...shore.wishes, [w.name]: e.target.checked } })}
              />
              <Reason text={reason(w.name)} />
            </div>
          ))}
        </section>
        <section>
          <h2 className="caps">Limits, 0 for none</h2>
          {BUDGETS.map((b) => (
            <div key={b.name}>
              <Row label={b.label}>
                <Form.Control
                  size="sm"
                  type="number"
                  min={0}
                  step={b.name === 'skinMove' ? 0.1 : 1}
                  value={shore.budgets[b.name]}
                  onChange={(e) =>
                    set({ budgets: { ...shore.budgets, [b.name]: Number(e.target.value) } })
                  }
                />
              </Row>
              <Reason text={reason(b.name)} />
            </div>
          ))}
        </section>
        <section>
          <h2 className="caps">May differ, empty: told, not judged</h2>
          {TOLERANCES.map((t) => (
            <div key={t.name}>
              <Row label={t.label}>
                <Form.Control
                  size="sm"
                  type="number"
                  min={0}
                  step="any"
                  placeholder={t.name === 'seenFrom' ? 'where all is seen' : ''}
                  value={shore.tolerances[t.name] ?? ''}
                  onChange={(e) => {
                    const value = e.target.value === '' ? null : Number(e.target.value);
                    set({ tolerances: { ...shore.tolerances, [t.name]: value } });
                  }}
                />
              </Row>
              <Reason text={reason(t.name)} />
            </div>
          ))}
        </section>
        <section>
          <h2 className="caps">Names</h2>
          <Text
            label="Allowed"
            placeholder="any"
            value={shore.names.allowed}
            onChange={(allowed) => set({ names: { ...shore.names, allowed } })}
          />
          <Row label="Longest">
            <Form.Control
              size="sm"
              type="number"
              min={0}
              value={shore.names.longest}
              onChange={(e) => set({ names: { ...shore.names, longest: Number(e.target.value) } })}
            />
          </Row>
          <Form.Check
            id="names-unique"
            type="checkbox"
            label="Each name once"
            checked={shore.names.unique}
            onChange={(e) => set({ names: { ...shore.names, unique: e.target.checked } })}
          />
          <Reason text={reason('unique')} />
        </section>
      </fieldset>
    </Form>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the control is the child
    <label className="shore-row">
      <span>{label}</span>
      {children}
    </label>
  );
}

interface TextProps {
  label: string;
  value: string;
  placeholder?: string;
  onChange: (value: string) => void;
}

function Text({ label, value, placeholder, onChange }: TextProps) {
  return (
    <Row label={label}>
      <Form.Control
        size="sm"
        value={value}
        placeholder={placeholder}
        onChange={(e) => onChange(e.target.value)}
      />
    </Row>
  );
}

interface AxisProps {
  value: Shore['frame']['up'];
  onChange: (axis: Shore['frame']['up']) => void;
}

function Axis({ value, onChange }: AxisProps) {
  return (
    <Form.Select
      size="sm"
      value={value}
      onChange={(e) => onChange(e.target.value as Shore['frame']['up'])}
    >
      {AXES.map((a) => (
        <option key={a.value} value={a.value}>
          {a.label}
        </option>
      ))}
    </Form.Select>
  );
}

function Reason({ text }: { text: string | undefined }) {
  return text ? <p className="shore-reason">{text}</p> : null;
}

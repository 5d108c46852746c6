import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { PartView } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { count, metres, plain } from '../../../shared/format';
import { useView } from '../../../view3d/viewState';
import { FactList } from './FactList';

const UNITS: [string, number][] = [
  ['m', 1],
  ['cm', 0.01],
  ['mm', 0.001],
];

/** Transform, skin, morph targets, clips and custom values of the chosen part. */
export function RigFacts({ crossingId, nodeId }: { crossingId: string; nodeId: number }) {
  const part = useQuery(queries.part(crossingId, nodeId)).data;
  const [unit, setUnit] = useState('m');
  const [form, setForm] = useState<'degrees' | 'quaternion'>('degrees');
  if (!part) {
    return null;
  }
  const metresPer = UNITS.find(([name]) => name === unit)?.[1] ?? 1;
  const facts: [string, string][] = [
    [
      'Position',
      triple(
        part.translation.map((v) => (v * part.metresPerUnit) / metresPer),
        unit,
      ),
    ],
    [
      'Rotation',
      form === 'degrees' ? triple(part.rotationDegrees, '°') : triple(part.quaternion, ''),
    ],
    ['Scale', triple(part.scale, '')],
  ];
  for (const skin of part.skins) {
    facts.push(['Joints', count(skin.joints)]);
    facts.push([
      'Influences',
      `up to ${skin.mostInfluences}${skin.overFour > 0 ? ` · ${count(skin.overFour)} vertices over 4` : ''}`,
    ]);
  }
  for (const [name, value] of Object.entries(part.notes)) {
    facts.push([name, value]);
  }
  if (part.clips.length > 0) {
    facts.push(['Moved by', part.clips.map((c) => c || '(no name)').join(', ')]);
  }
  for (const [name, value] of Object.entries(part.properties)) {
    facts.push([name, value]);
  }
  return (
    <>
      <div className="fact-tools">
        <Form.Select
          size="sm"
          aria-label="Unit of positions"
          value={unit}
          onChange={(e) => setUnit(e.target.value)}
        >
          {UNITS.map(([name]) => (
            <option key={name}>{name}</option>
          ))}
        </Form.Select>
        <Form.Select
          size="sm"
          aria-label="Form of rotations"
          value={form}
          onChange={(e) => setForm(e.target.value as 'degrees' | 'quaternion')}
        >
          <option value="degrees">degrees X, Y, Z</option>
          <option value="quaternion">quaternion X, Y, Z, W</option>
        </Form.Select>
      </div>
      <FactList facts={facts} />
      {part.morphs.length > 0 && <MorphSliders part={part} />}
    </>
  );
}

function triple(values: number[], unit: string): string {
  const text = values.map((v) => plain(Math.abs(v) < 1e-9 ? 0 : Number(v.toPrecision(5))));
  return `${text.join(', ')}${unit ? ` ${unit}` : ''}`;
}

/** A slider for each morph target; it moves both views and changes nothing else. */
function MorphSliders({ part }: { part: PartView }) {
  const byHand = useView((s) => s.morphWeights);
  const set = useView((s) => s.set);
  const weights = byHand[part.id] ?? part.morphs.map((m) => m.weight);
  const change = (place: number, value: number) =>
    set({
      morphWeights: { ...byHand, [part.id]: weights.map((w, i) => (i === place ? value : w)) },
    });
  const giveBack = () => {
    const { [part.id]: _, ...others } = byHand;
    set({ morphWeights: others });
  };
  return (
    <section className="morphs" aria-label="Morph targets">
      <h3 className="caps">
        Morph targets
        {byHand[part.id] && (
          <Button variant="link" onClick={giveBack}>
            as read
          </Button>
        )}
      </h3>
      {part.morphs.map((m, i) => (
        <div key={m.name}>
          <label
            htmlFor={`morph-${i}`}
            title={`${count(m.vertices)} vertices, up to ${metres(m.farthest)}`}
          >
            {m.name}
          </label>
          <output>{(weights[i] ?? 0).toFixed(2)}</output>
          <Form.Range
            id={`morph-${i}`}
            min={0}
            max={1}
            step={0.01}
            value={weights[i] ?? 0}
            onChange={(e) => change(i, Number(e.target.value))}
          />
          {m.commonShift > 0 && (
            <p className="quiet">moves the whole body by {metres(m.commonShift)} or more</p>
          )}
        </div>
      ))}
    </section>
  );
}

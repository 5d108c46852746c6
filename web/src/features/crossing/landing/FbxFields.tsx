import { Form } from 'react-bootstrap';
import type { LandingOptions } from '../../../api/client';

type Fbx = LandingOptions['fbx'];

/** Binary in centimetres with Y up, as most tools take it. */
export const USUAL_FBX: Fbx = {
  form: 'BINARY',
  version: 7400,
  bake: false,
  toleranceRadians: 0,
  triangulate: false,
  metresPerUnit: 0.01,
  up: 'PLUS_Y',
  front: 'PLUS_Z',
  hand: 'RIGHT',
};

const FORMS = [
  { value: 'BINARY 7400', label: 'Binary, version 7.4' },
  { value: 'BINARY 7500', label: 'Binary, version 7.5: files over 4 GB' },
  { value: 'TEXT 7400', label: 'Text, version 7.4' },
];

const UNITS = [
  { metres: 0.001, label: 'Millimetres' },
  { metres: 0.01, label: 'Centimetres' },
  { metres: 1, label: 'Metres' },
  { metres: 0.0254, label: 'Inches' },
  { metres: 0.3048, label: 'Feet' },
];

const UPS: { value: Fbx['up']; label: string }[] = [
  { value: 'PLUS_Y', label: 'Y up' },
  { value: 'PLUS_Z', label: 'Z up' },
  { value: 'PLUS_X', label: 'X up' },
];

/** A tenth of a degree is seen on long arms; the first is below a hundredth of a millimetre at 1 m. */
const TOLERANCES = [
  { value: 0, label: 'Rotations within 0.00001 rad' },
  { value: 0.0001, label: 'Rotations within 0.0001 rad' },
  { value: 0.001, label: 'Rotations within 0.001 rad' },
];

interface Props {
  fbx: Fbx;
  onChange: (change: Partial<Fbx>) => void;
}

/** What only FBX asks: its form, the frame in its header, and what is simplified. */
export function FbxFields({ fbx, onChange }: Props) {
  return (
    <>
      <fieldset>
        <legend>Form and header</legend>
        <Form.Select
          size="sm"
          aria-label="Form of the file"
          value={`${fbx.form} ${fbx.version}`}
          onChange={(e) => {
            const [form, version] = e.target.value.split(' ');
            onChange({ form: form as Fbx['form'], version: Number(version) });
          }}
        >
          {FORMS.map((f) => (
            <option key={f.value} value={f.value}>
              {f.label}
            </option>
          ))}
        </Form.Select>
        <Form.Select
          size="sm"
          className="mt-1"
          aria-label="Unit of the file"
          value={fbx.metresPerUnit}
          onChange={(e) => onChange({ metresPerUnit: Number(e.target.value) })}
        >
          {UNITS.map((u) => (
            <option key={u.metres} value={u.metres}>
              {u.label}
            </option>
          ))}
        </Form.Select>
        <Form.Select
          size="sm"
          className="mt-1"
          aria-label="Up axis of the file"
          value={fbx.up}
          onChange={(e) => {
            const up = e.target.value as Fbx['up'];
            onChange({ up, front: up === 'PLUS_Z' ? 'MINUS_Y' : 'PLUS_Z', hand: 'RIGHT' });
          }}
        >
          {UPS.map((u) => (
            <option key={u.value} value={u.value}>
              {u.label}
            </option>
          ))}
        </Form.Select>
      </fieldset>
      <fieldset>
        <legend>Simpler than it is</legend>
        <Form.Check
          type="checkbox"
          id="triangulate"
          label="Faces cut into triangles"
          checked={fbx.triangulate}
          onChange={(e) => onChange({ triangulate: e.target.checked })}
        />
        <Form.Check
          type="checkbox"
          id="bake"
          label="Pivots and inherited scales baked"
          checked={fbx.bake}
          onChange={(e) => onChange({ bake: e.target.checked })}
        />
        {fbx.bake && (
          <Form.Select
            size="sm"
            className="mt-1"
            aria-label="Tolerance of baked motion"
            value={fbx.toleranceRadians}
            onChange={(e) => onChange({ toleranceRadians: Number(e.target.value) })}
          >
            {TOLERANCES.map((t) => (
              <option key={t.value} value={t.value}>
                {t.label}
              </option>
            ))}
          </Form.Select>
        )}
        <div className="form-text">
          Off: polygons, pivots and keys go through as they came. Bake for readers that know neither
          pivots nor inherited scales.
        </div>
      </fieldset>
    </>
  );
}

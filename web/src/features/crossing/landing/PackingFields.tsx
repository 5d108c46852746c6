import { Form } from 'react-bootstrap';
import type { LandingOptions } from '../../../api/client';

type Packing = LandingOptions['packing'];

const FLAGS: {
  key: 'quantized' | 'compressed' | 'drawOrder' | 'instanced';
  label: string;
  help: string;
}[] = [
  {
    key: 'quantized',
    label: '16-bit vertices',
    help: 'KHR_mesh_quantization: the proof says how far vertices moved',
  },
  {
    key: 'compressed',
    label: 'Packed without loss',
    help: 'EXT_meshopt_compression: viewers must know it',
  },
  {
    key: 'drawOrder',
    label: 'In drawing order',
    help: 'Triangles and vertices in the order that draws fastest; morphs and caches made for the old order no longer fit',
  },
  {
    key: 'instanced',
    label: 'Gather copies',
    help: 'EXT_mesh_gpu_instancing: copies under one parent become one part without names of their own',
  },
];

interface Props {
  packing: Packing;
  onChange: (change: Partial<Packing>) => void;
}

/** What makes the file smaller or quicker to draw; all of it off at first. */
export function PackingFields({ packing, onChange }: Props) {
  return (
    <>
      <fieldset>
        <legend>Smaller, faster</legend>
        {FLAGS.map((f) => (
          <Form.Check
            key={f.key}
            type="checkbox"
            id={f.key}
            label={f.label}
            title={f.help}
            checked={packing[f.key]}
            onChange={(e) => onChange({ [f.key]: e.target.checked })}
          />
        ))}
        <div className="form-text">Off: vertex order and numbers are a contract.</div>
      </fieldset>
      <fieldset>
        <legend>Normal maps</legend>
        <Form.Check
          type="checkbox"
          id="tangents"
          label="Compute missing tangents"
          checked={packing.tangents}
          onChange={(e) => onChange({ tangents: e.target.checked })}
        />
        <div className="form-text">
          Off: each viewer computes its own, and the shading may differ.
        </div>
      </fieldset>
      <fieldset>
        <legend>Limits</legend>
        <Form.Select
          size="sm"
          aria-label="Longest side of a texture"
          value={packing.largestTexture}
          onChange={(e) => onChange({ largestTexture: Number(e.target.value) })}
        >
          <option value={0}>Textures as large as they are</option>
          {[4096, 2048, 1024, 512, 256].map((size) => (
            <option key={size} value={size}>
              Textures up to {size} px
            </option>
          ))}
        </Form.Select>
        <Form.Select
          size="sm"
          className="mt-1"
          aria-label="Width of indices"
          title="16 bits: larger parts are cut into several primitives"
          value={packing.indexBits}
          onChange={(e) => onChange({ indexBits: e.target.value as Packing['indexBits'] })}
        >
          <option value="FITTING">Indices of 16 bits where they reach</option>
          <option value="SHORT">Indices of 16 bits, cut to fit</option>
          <option value="LONG">Indices of 32 bits</option>
        </Form.Select>
      </fieldset>
    </>
  );
}

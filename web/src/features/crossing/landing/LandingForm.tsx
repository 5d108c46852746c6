import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Form, Table } from 'react-bootstrap';
import { Link } from 'react-router-dom';
import { type LandingOptions, type LandingRecord, sendJson } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { bytes, when } from '../../../shared/format';
import { complain } from '../../../shared/Notices';
import { UnderWay } from '../../quay/UnderWay';
import { QuaysideHead } from '../QuaysideHead';
import { FbxFields, USUAL_FBX } from './FbxFields';
import { ForecastTable } from './ForecastTable';
import { optionsFor } from './optionsFor';
import { PackingFields } from './PackingFields';
import { PartFields } from './PartFields';
import { ShoreChoice } from './ShoreChoice';
import { useFarShore } from './useFarShore';

const GLB: LandingOptions = {
  format: 'glb',
  embedTextures: true,
  embedBuffers: true,
  transforms: 'DATA',
  doubleSided: false,
  influences: 4,
  packing: {
    quantized: false,
    compressed: false,
    indexBits: 'FITTING',
    drawOrder: false,
    largestTexture: 0,
    instanced: false,
    tangents: true,
  },
  fileName: '',
  fbx: USUAL_FBX,
  parts: { each: false, pattern: '{asset}_{part}', origin: 'PIVOT' },
  skinMove: 0.5,
};

const NAMES: Record<string, string> = { glb: 'GLB', gltf: 'glTF', fbx: 'FBX' };

/** Format and options, the button, and what has landed before. */
export function LandingForm({ id }: { id: string }) {
  const landings = useQuery(queries.landings(id));
  const client = useQueryClient();
  const [options, setOptions] = useState<LandingOptions>(GLB);
  const [busy, setBusy] = useState(false);
  const fbx = options.format === 'fbx';
  const set = (change: Partial<LandingOptions>) => setOptions((o) => ({ ...o, ...change }));
  const land = () => {
    setBusy(true);
    sendJson<LandingRecord>('POST', `/api/crossings/${id}/landings`, options)
      .then(() => client.invalidateQueries({ queryKey: ['crossing', id, 'landings'] }))
      .catch(complain)
      .finally(() => setBusy(false));
  };
  const near = useQuery(queries.near(id));
  const farShore = useFarShore(id);
  const shore = farShore.shore;
  // The options follow the shore whenever another one is chosen.
  const [followed, setFollowed] = useState<string | null>(null);
  useEffect(() => {
    if (shore && followed !== shore.id) {
      setFollowed(shore.id);
      setOptions((o) => optionsFor(shore, o));
    }
  }, [shore, followed]);
  const rigged = (near.data?.skins.length ?? 0) > 0;
  const all = landings.data ?? [];
  const running = all.some((l) => l.state === 'running');
  return (
    <>
      <QuaysideHead title="Landing">
        <ShoreChoice id={id} />
        <span className="quiet">Written, read back and compared at once.</span>
        <span className="end">
          <Button onClick={land} disabled={busy || running}>
            {running ? 'Landing …' : `Land as ${NAMES[options.format]}`}
          </Button>
        </span>
      </QuaysideHead>
      <div className="quayside-body">
        <ForecastTable id={id} options={options} onOptions={set} />
        <Form className="form-grid" onSubmit={(e) => e.preventDefault()}>
          <fieldset>
            <legend>Format</legend>
            <Form.Check
              type="radio"
              id="glb"
              name="format"
              label="GLB, one file"
              checked={options.format === 'glb'}
              onChange={() => set({ format: 'glb', embedTextures: true, embedBuffers: true })}
            />
            <Form.Check
              type="radio"
              id="gltf"
              name="format"
              label="glTF, separate files"
              checked={options.format === 'gltf'}
              onChange={() => set({ format: 'gltf', embedTextures: false, embedBuffers: false })}
            />
            <Form.Check
              type="radio"
              id="fbx"
              name="format"
              label="FBX"
              checked={fbx}
              onChange={() => set({ format: 'fbx', embedTextures: true })}
            />
          </fieldset>
          <fieldset>
            <legend>Name of the files</legend>
            <Form.Control
              size="sm"
              aria-label="Name of the files"
              placeholder="as the crossing"
              value={options.fileName ?? ''}
              onChange={(e) => set({ fileName: e.target.value })}
            />
            <div className="form-text">Files beside it are named and linked accordingly.</div>
          </fieldset>
          <PartFields
            parts={options.parts}
            onChange={(change) => setOptions((o) => ({ ...o, parts: { ...o.parts, ...change } }))}
          />
          <fieldset>
            <legend>Textures and data</legend>
            <Form.Check
              type="checkbox"
              id="embed"
              label="Textures inside the file"
              checked={options.embedTextures}
              onChange={(e) => set({ embedTextures: e.target.checked })}
            />
            {!fbx && (
              <Form.Check
                type="checkbox"
                id="embed-data"
                label="Geometry inside the file"
                disabled={options.format === 'glb'}
                checked={options.embedBuffers}
                onChange={(e) => set({ embedBuffers: e.target.checked })}
              />
            )}
          </fieldset>
          <fieldset>
            <legend>Unit, axes and place</legend>
            <Form.Check
              type="radio"
              id="data"
              name="transforms"
              label="Into the data: parts stay clean"
              checked={options.transforms === 'DATA'}
              onChange={() => set({ transforms: 'DATA' })}
            />
            <Form.Check
              type="radio"
              id="on-root"
              name="transforms"
              label="On one root part: numbers stay"
              checked={options.transforms === 'ROOT'}
              onChange={() => set({ transforms: 'ROOT' })}
            />
          </fieldset>
          <fieldset>
            <legend>Surfaces</legend>
            <Form.Check
              type="checkbox"
              id="double"
              label="Show both sides"
              checked={options.doubleSided}
              onChange={(e) => set({ doubleSided: e.target.checked })}
            />
            <div className="form-text">Off: costs time to draw and hides flipped faces.</div>
          </fieldset>
          {fbx && (
            <FbxFields
              fbx={options.fbx}
              onChange={(change) => setOptions((o) => ({ ...o, fbx: { ...o.fbx, ...change } }))}
            />
          )}
          {rigged && !fbx && (
            <fieldset>
              <legend>Joints for a vertex</legend>
              <Form.Check
                type="radio"
                id="four"
                name="influences"
                label="The 4 strongest, scaled to 1"
                checked={options.influences === 4}
                onChange={() => set({ influences: 4 })}
              />
              <Form.Check
                type="radio"
                id="all-joints"
                name="influences"
                label="All"
                checked={options.influences === 0}
                onChange={() => set({ influences: 0 })}
              />
              <div className="form-text">
                The standard only promises that viewers use 4; others are passed over by many.
              </div>
            </fieldset>
          )}
          {!fbx && (
            <PackingFields
              packing={options.packing}
              onChange={(change) =>
                setOptions((o) => ({ ...o, packing: { ...o.packing, ...change } }))
              }
            />
          )}
        </Form>
        <div className="px-3 pb-2" style={{ maxWidth: 460 }}>
          <UnderWay crossingId={id} />
        </div>
        {all.length > 0 && <LandingTable id={id} landings={all} />}
      </div>
    </>
  );
}

/** Deletes a landing and its files; the second click does it. */
function DeleteLanding({ id, landing }: { id: string; landing: LandingRecord }) {
  const [sure, setSure] = useState(false);
  const client = useQueryClient();
  const name = landing.mainFile ?? landing.options.format.toUpperCase();
  const remove = () =>
    sendJson('DELETE', `/api/landings/${landing.id}`)
      .then(() => client.invalidateQueries({ queryKey: ['crossing', id, 'landings'] }))
      .catch(complain);
  return (
    <Button
      variant="link"
      size="sm"
      className={`p-0 ${sure ? 'loss' : ''}`}
      aria-label={sure ? `Delete the landing ${name} for good` : `Delete the landing ${name}`}
      title="Its files and its proof go with it"
      onClick={() => (sure ? remove() : setSure(true))}
      onBlur={() => setSure(false)}
    >
      {sure ? 'Really delete' : 'Delete'}
    </Button>
  );
}

function LandingTable({ id, landings }: { id: string; landings: LandingRecord[] }) {
  return (
    <Table>
      <thead>
        <tr>
          <th>Landed</th>
          <th>When</th>
          <th>State</th>
          <th className="num">Size</th>
          <th>Get</th>
          <th aria-label="Delete" />
        </tr>
      </thead>
      <tbody>
        {landings.map((l) => (
          <tr key={l.id}>
            <td>{l.proof?.file ?? l.mainFile ?? l.options.format.toUpperCase()}</td>
            <td>{when(l.createdAt)}</td>
            <td>
              {l.state === 'done' && l.proof ? (
                <Link to={`/crossings/${id}/proof`} className="text-decoration-none">
                  <span className="pill pill-kept">{l.proof.kept} kept</span>{' '}
                  <span className="pill pill-change">{l.proof.changed} changed</span>{' '}
                  <span className="pill pill-loss">{l.proof.lost} lost</span>
                  {!l.current && <span className="quiet"> · before later steps</span>}
                </Link>
              ) : (
                <span
                  className={`pill ${l.state === 'failed' ? 'pill-loss' : 'pill-plain'}`}
                  title={l.problem ?? ''}
                >
                  {l.state}
                </span>
              )}
              {l.problem && <span className="loss"> {l.problem}</span>}
            </td>
            <td className="num">
              {l.files.length > 0 ? bytes(l.files.reduce((sum, f) => sum + f.size, 0)) : ''}
            </td>
            <td>
              {l.state === 'done' && (
                <a href={`/api/landings/${l.id}/download`}>
                  {l.files.length === 1 ? l.mainFile : `zip of ${l.files.length} files`}
                </a>
              )}
            </td>
            <td className="num">
              <DeleteLanding id={id} landing={l} />
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Table } from 'react-bootstrap';
import { Link } from 'react-router-dom';
import { type LandingOptions, type LandingView, sendJson } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { bytes, when } from '../../../shared/format';
import { complain } from '../../../shared/Notices';
import { UnderWay } from '../../quay/UnderWay';
import { QuaysideHead } from '../QuaysideHead';
import { AlsoAs } from './AlsoAs';
import { ForecastTable } from './ForecastTable';
import { LandingFields } from './LandingFields';
import { SaveRoutine } from './SaveRoutine';
import { ShoreChoice } from './ShoreChoice';
import { useFarShore } from './useFarShore';
import { useLandingOptions } from './useLandingOptions';
import './landing.css';

/** Format and options, the button, and what has landed before. */
export function LandingForm({ id }: { id: string }) {
  const landings = useQuery(queries.landings(id));
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [also, setAlso] = useState<string[]>([]);
  const { shore } = useFarShore(id);
  const { formats, chosen, options, set, setOption, setFormat } = useLandingOptions(shore);
  const format = formats.find((f) => f.key === chosen);
  const further = also.filter((key) => key !== chosen);
  /** The chosen landing, then one for each further format. */
  const everyLanding = async (first: LandingOptions) => {
    const every = [first];
    for (const key of further) {
      const { fileName, parts, contents } = first;
      const asked = shore && (await client.fetchQuery(queries.landingOn(shore, key)));
      if (asked) {
        every.push({ ...asked, fileName, parts, contents });
      }
    }
    return every;
  };
  const land = () => {
    if (!options) {
      return;
    }
    setBusy(true);
    everyLanding(options)
      .then(async (every) => {
        for (const each of every) {
          await sendJson<LandingView>('POST', `/api/crossings/${id}/landings`, each);
        }
        await client.invalidateQueries({ queryKey: ['crossing', id, 'landings'] });
      })
      .catch(complain)
      .finally(() => setBusy(false));
  };
  const all = landings.data ?? [];
  const running = all.some((l) => l.state === 'running');
  return (
    <>
      <QuaysideHead title="Landing">
        <ShoreChoice id={id} />
        <span className="quiet">Written, read back and compared at once.</span>
        <span className="end">
          {options && <SaveRoutine id={id} options={options} />}
          <Button onClick={land} disabled={busy || running || !options}>
            {running
              ? 'Landing …'
              : `Land as ${format?.name ?? '…'}${further.length > 0 ? ` and ${further.length} more` : ''}`}
          </Button>
        </span>
      </QuaysideHead>
      <div className="quayside-body">
        {format && (
          <div className="landing-split">
            <LandingFields
              formats={formats}
              format={format}
              options={options}
              set={set}
              setOption={setOption}
              setFormat={setFormat}
              also={
                <AlsoAs formats={formats} chosen={format.key} also={further} onChange={setAlso} />
              }
            />
            {options && <ForecastTable id={id} options={options} onOption={setOption} />}
          </div>
        )}
        <div className="px-3 pb-2" style={{ maxWidth: 460 }}>
          <UnderWay crossingId={id} />
        </div>
        {all.length > 0 && <LandingTable id={id} landings={all} />}
      </div>
    </>
  );
}

/** Deletes a landing and its files; the second click does it. */
function DeleteLanding({ id, landing }: { id: string; landing: LandingView }) {
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

function LandingTable({ id, landings }: { id: string; landings: LandingView[] }) {
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

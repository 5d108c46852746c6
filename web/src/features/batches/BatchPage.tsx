import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { useNavigate, useParams } from 'react-router-dom';
import { type BatchDetail, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { FileInputs } from '../../shared/FileInputs';
import { complain } from '../../shared/Notices';
import { Progress } from '../../shared/Progress';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import { AssetTable } from './AssetTable';
import { useBatchDrop } from './useBatchDrop';
import '../quay/quay.css';
import './batches.css';

/** One batch: its assets as they are carried, and what there is to take. */
export default function BatchPage() {
  const { id = '' } = useParams();
  const detail = useQuery(queries.batch(id));
  const client = useQueryClient();
  const navigate = useNavigate();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const [sure, setSure] = useState(false);
  const [only, setOnly] = useState(false);
  const { take, sending, over, stop } = useBatchDrop(id);
  const batch = detail.data?.batch;
  const assets = detail.data?.assets ?? [];
  const act = (what: string) =>
    sendJson<BatchDetail>('POST', `/api/batches/${id}/${what}`)
      .then((d) => client.setQueryData(queries.batch(id).queryKey, d))
      .catch(complain);
  const remove = () =>
    sendJson('DELETE', `/api/batches/${id}`)
      .then(async () => {
        await client.invalidateQueries({ queryKey: ['batches'] });
        navigate('/batches');
      })
      .catch(complain);
  const again = assets.filter(
    (a) => ['cancelled', 'new'].includes(a.state) || a.verdict === 'refused',
  ).length;
  const trouble = assets.filter((a) => a.trouble).length;
  const done = assets.filter((a) => a.verdict !== null).length;
  return (
    <div className="screen">
      <TopLine left={<ScreenNav />} />
      <main className="quay-list">
        <div className="quay-head">
          <h1>{batch?.name ?? 'Batch'}</h1>
          {batch && (
            <span className="quiet">
              {batch.routine}, version {batch.version}
            </span>
          )}
          <span className="ms-auto d-flex gap-2 flex-wrap">
            {batch?.working && (
              <Button variant="outline-secondary" onClick={() => act('cancel')}>
                Cancel the rest
              </Button>
            )}
            {again > 0 && !batch?.working && !sending && (
              <Button variant="outline-secondary" onClick={() => act('retry')}>
                Try {again} again
              </Button>
            )}
            {done > 0 && (
              <>
                <Button variant="outline-secondary" href={`/api/batches/${id}/report.html`}>
                  Report
                </Button>
                <Button href={`/api/batches/${id}/download`}>Take everything</Button>
              </>
            )}
            <Button
              variant="outline-secondary"
              className={sure ? 'loss' : ''}
              onClick={() => (sure ? remove() : setSure(true))}
              onBlur={() => setSure(false)}
            >
              {sure ? 'Really delete' : 'Delete'}
            </Button>
          </span>
        </div>
        {detail.error && <p className="loss">{detail.error.message}</p>}
        {batch?.working && (
          <div className="batch-progress">
            <Progress label="Carrying the assets" fraction={done / Math.max(1, assets.length)} />
            <span className="quiet">
              {done} of {assets.length}
            </span>
          </div>
        )}
        <div className={`slip slip-line ${over ? 'slip-over' : ''}`}>
          {sending ? (
            <>
              <span>
                Sending {sending.name}, {sending.done + 1} of {sending.all}
              </span>
              <Button variant="outline-secondary" onClick={stop}>
                Stop sending
              </Button>
            </>
          ) : (
            <>
              <span>
                Drop scene files, zips and folders: each is an asset. A single folder is looked
                into.
              </span>
              <Button onClick={() => files.current?.click()}>Choose files</Button>
              <Button variant="outline-secondary" onClick={() => folder.current?.click()}>
                Choose folder
              </Button>
            </>
          )}
        </div>
        <FileInputs take={take} files={files} folder={folder} />
        {assets.length > 0 && (
          <div className="batch-filter">
            <span>
              {assets.length} {assets.length === 1 ? 'asset' : 'assets'}, {trouble} to look at
            </span>
            <Form.Check
              id="only-trouble"
              type="checkbox"
              label="Only what to look at"
              checked={only}
              onChange={(e) => setOnly(e.target.checked)}
            />
          </div>
        )}
        {assets.length > 0 && (
          <AssetTable batch={id} assets={only ? assets.filter((a) => a.trouble) : assets} />
        )}
      </main>
      <footer className="lower-edge">
        <span>An asset opens as a crossing, with the steps that the routine took.</span>
      </footer>
    </div>
  );
}

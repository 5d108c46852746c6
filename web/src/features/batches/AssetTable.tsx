import { Table } from 'react-bootstrap';
import { useNavigate } from 'react-router-dom';
import { type BatchAsset, sendJson } from '../../api/client';
import { Button } from '../../shared/Button';
import { complain } from '../../shared/Notices';

const FACTS = 3;

interface Props {
  batch: string;
  assets: BatchAsset[];
}

/** A row an asset: picture, verdict, what was foretold and what was lost. */
export function AssetTable({ batch, assets }: Props) {
  const navigate = useNavigate();
  const open = (asset: BatchAsset) =>
    sendJson('POST', `/api/batches/${batch}/assets/${asset.crossingId}/open`)
      .then(() => navigate(`/crossings/${asset.crossingId}`))
      .catch(complain);
  const again = (asset: BatchAsset) =>
    sendJson('POST', `/api/batches/${batch}/assets/${asset.crossingId}/run`).catch(complain);
  return (
    <Table className="asset-table">
      <thead>
        <tr>
          <th aria-label="Picture" />
          <th>Asset</th>
          <th>Verdict</th>
          <th className="num">Foretold</th>
          <th>Proved</th>
          <th>What is to be known</th>
          <th aria-label="Actions" />
        </tr>
      </thead>
      <tbody>
        {assets.map((a) => (
          <tr key={a.crossingId}>
            <td style={{ width: 92 }}>
              {a.hasPicture ? (
                <img className="thumb" alt="" src={`/api/crossings/${a.crossingId}/thumbnail`} />
              ) : (
                <span className="thumb" />
              )}
            </td>
            <td className="fw-medium">{a.name}</td>
            <td>
              <Verdict asset={a} />
            </td>
            <td className="num">{a.landings.length > 0 ? a.foretold : ''}</td>
            <td>
              {a.landings.length > 0 && (
                <>
                  <span className="pill pill-kept">{a.kept} kept</span>{' '}
                  {a.changed > 0 && <span className="pill pill-change">{a.changed} changed</span>}{' '}
                  {a.lost > 0 && <span className="pill pill-loss">{a.lost} lost</span>}
                </>
              )}
            </td>
            <td className="asset-told">
              {a.lostFacts.slice(0, FACTS).map((fact) => (
                <div key={fact}>{fact}</div>
              ))}
              {a.lostFacts.length > FACTS && (
                <div className="quiet">{a.lostFacts.length - FACTS} more</div>
              )}
              {a.lostFacts.length === 0 && a.trouble && a.told}
            </td>
            <td className="num text-nowrap">
              {(a.state === 'cancelled' || a.state === 'new' || a.verdict === 'refused') && (
                <Button variant="link" size="sm" onClick={() => again(a)}>
                  {a.state === 'new' ? 'Run' : 'Try again'}
                </Button>
              )}
              <Button variant="link" size="sm" onClick={() => open(a)}>
                Open
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function Verdict({ asset }: { asset: BatchAsset }) {
  if (asset.verdict === null) {
    return <span className="pill pill-plain">{asset.state}</span>;
  }
  const look = asset.trouble ? 'loss' : asset.verdict === 'changed' ? 'change' : 'kept';
  return <span className={`pill pill-${look}`}>{asset.verdict}</span>;
}

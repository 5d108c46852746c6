import { useQuery } from '@tanstack/react-query';
import type { BenchRow } from '../../api/client';
import { queries } from '../../api/queries';

interface Props {
  id: string;
  revision: number;
  row: BenchRow;
}

const SIDE = 104;

/** How far what a material reflects is off against the near side, whichever model each is in. */
export function RowLoss({ id, revision, row }: Props) {
  const both = row.nearId >= 0 && row.farId >= 0;
  const loss = useQuery({ ...queries.reflectionLoss(id, revision, row.name), enabled: both });
  if (!both || !loss.data || loss.data.most === 0) {
    return null;
  }
  const name = encodeURIComponent(row.name);
  return (
    <figure className="slot-loss">
      <img
        className="thumb"
        style={{ width: SIDE, height: SIDE }}
        loading="lazy"
        alt="Where both sides reflect otherwise, eight times as strong"
        src={`/api/crossings/${id}/bench/reflection/picture?material=${name}&size=${2 * SIDE}&at=${revision}`}
      />
      <figcaption>
        <h3 className="caps">Reflection</h3>
        <p>
          {percent(loss.data.mean)} off in the mean, {percent(loss.data.most)} at most, over one
          repeat of its images
        </p>
      </figcaption>
    </figure>
  );
}

function percent(part: number): string {
  return `${(100 * part).toFixed(2)}\u00a0%`;
}

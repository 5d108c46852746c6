import { useQuery } from '@tanstack/react-query';
import type { BenchSlot } from '../../api/client';
import { queries } from '../../api/queries';

interface Props {
  id: string;
  near: BenchSlot;
  far: BenchSlot;
}

const SIDE = 104;

/** What the far side's image lost against the near side's, where both have one and they differ. */
export function SlotLoss({ id, near, far }: Props) {
  const both =
    near.key !== '' &&
    far.key !== '' &&
    near.key !== far.key &&
    near.part === far.part &&
    near.state !== 'missing' &&
    far.state !== 'missing';
  const loss = useQuery({ ...queries.imageLoss(id, near.key, far.key), enabled: both });
  if (!both) {
    return null;
  }
  const decibels = loss.data?.decibels;
  return (
    <figure className="slot-loss">
      <img
        className="thumb"
        style={{ width: SIDE, height: SIDE }}
        loading="lazy"
        alt="Where both images differ, eight times as strong"
        src={`/api/crossings/${id}/textures/${far.key}/difference?from=${near.key}&size=${2 * SIDE}`}
      />
      <figcaption>
        <h3 className="caps">Difference</h3>
        {loss.error ? (
          <p className="loss">{loss.error.message}</p>
        ) : loss.data ? (
          <p>
            {typeof decibels === 'number'
              ? `${decibels.toFixed(1)} dB (PSNR), shown eight times as strong`
              : 'none: the same pixels'}
          </p>
        ) : (
          <p className="quiet">Comparing …</p>
        )}
      </figcaption>
    </figure>
  );
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { type Storage, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { bytes } from '../../shared/format';
import { complain } from '../../shared/Notices';

/** How much is kept on disk, with a way to free what nothing uses. */
export function StorageLine() {
  const storage = useQuery(queries.storage());
  const client = useQueryClient();
  const [freed, setFreed] = useState<number | null>(null);
  if (!storage.data) {
    return null;
  }
  const sweep = () =>
    sendJson<Storage>('POST', '/api/storage/sweep')
      .then((now) => {
        setFreed(now.freedBytes);
        client.setQueryData(queries.storage().queryKey, now);
      })
      .catch(complain);
  return (
    <p className="storage-line quiet" aria-live="polite">
      {bytes(storage.data.heldBytes)} held on disk · {bytes(storage.data.freeBytes)} free{' '}
      <Button
        variant="link"
        size="sm"
        className="p-0 text-decoration-underline"
        title="Files of deleted crossings and landings go by themselves within minutes"
        onClick={sweep}
      >
        Free what nothing uses
      </Button>
      {freed !== null && (
        <span> · {freed === 0 ? 'nothing to free' : `${bytes(freed)} freed`}</span>
      )}
    </p>
  );
}

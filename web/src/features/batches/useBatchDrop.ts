import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import { type BatchAsset, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { type Incoming, put } from '../../api/upload';
import { complain } from '../../shared/Notices';
import { usePageDrop } from '../../shared/usePageDrop';
import { assetsOf } from './assetsOf';
import { endings } from './endings';

/** Which of how many assets is being sent. */
export interface Sending {
  done: number;
  all: number;
  name: string;
}

/** Takes what is dropped on the page, or chosen, as assets of a batch and runs each as it is sent. */
export function useBatchDrop(batch: string) {
  const client = useQueryClient();
  const [sending, setSending] = useState<Sending | null>(null);
  const abort = useRef<AbortController | null>(null);

  const take = useCallback(
    async (files: Incoming[]) => {
      if (abort.current) {
        return;
      }
      // What can be read may still be on its way here.
      const of = endings(await client.ensureQueryData(queries.formats()));
      const assets = assetsOf(files, of.scenes, of.caches);
      if (assets.length === 0) {
        complain(new Error('There is no scene file in what was dropped.'));
        return;
      }
      const controller = new AbortController();
      abort.current = controller;
      try {
        for (const [done, asset] of assets.entries()) {
          setSending({ done, all: assets.length, name: asset.name });
          const row = await sendJson<BatchAsset>('POST', `/api/batches/${batch}/assets`, {
            name: asset.name,
          });
          await put(row.crossingId, asset.files, controller.signal, () => undefined);
          await sendJson('POST', `/api/batches/${batch}/assets/${row.crossingId}/run`);
        }
      } catch (error) {
        complain(error);
      } finally {
        abort.current = null;
        setSending(null);
        void client.invalidateQueries({ queryKey: ['batches'] });
      }
    },
    [batch, client],
  );
  const over = usePageDrop(take);

  return { take, sending, over, stop: () => abort.current?.abort() };
}

import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { type BatchAsset, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { filesOfDrop, type Incoming, put } from '../../api/upload';
import { complain } from '../../shared/Notices';
import { assetsOf } from './assetsOf';

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
  const [over, setOver] = useState(false);
  const abort = useRef<AbortController | null>(null);

  const take = useCallback(
    async (files: Incoming[]) => {
      if (abort.current) {
        return;
      }
      // What can be read may still be on its way here.
      const read = (await client.ensureQueryData(queries.formats())).filter((f) => f.reads);
      const of = (cache: boolean) =>
        read.filter((f) => CACHES.includes(f.key) === cache).flatMap((f) => f.extensions);
      const assets = assetsOf(files, of(false), of(true));
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
  const latest = useRef(take);
  latest.current = take;

  useEffect(() => {
    const drag = (e: DragEvent) => {
      if (e.dataTransfer?.types.includes('Files')) {
        e.preventDefault();
        setOver(true);
      }
    };
    const leave = (e: DragEvent) => {
      if (e.relatedTarget === null) {
        setOver(false);
      }
    };
    const drop = (e: DragEvent) => {
      e.preventDefault();
      setOver(false);
      if (e.dataTransfer) {
        filesOfDrop(e.dataTransfer).then((f) => latest.current(f), complain);
      }
    };
    window.addEventListener('dragover', drag);
    window.addEventListener('dragleave', leave);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', drag);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('drop', drop);
    };
  }, []);

  return { take, sending, over, stop: () => abort.current?.abort() };
}

/** Formats of point caches, which belong to a scene of their name. */
const CACHES = ['mdd', 'pc2'];

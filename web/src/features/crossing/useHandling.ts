import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import {
  ApiError,
  type BenchPut,
  type HandlingState,
  type Offer,
  type Step,
  sendJson,
} from '../../api/client';
import { queries } from '../../api/queries';
import { complain } from '../../shared/Notices';

/** A short id, unique enough for the steps of one handling. */
export function newStepId(): string {
  return crypto.randomUUID().slice(0, 8);
}

/** What is being saved of each crossing: keys, stones and offers all wait for each other. */
const queues = new Map<string, Promise<unknown>>();

/** The handling and its changes: saved at once, one after another. */
export function useHandling(id: string, ready: boolean) {
  const client = useQueryClient();
  const query = useQuery({ ...queries.handling(id), enabled: ready });
  const key = queries.handling(id).queryKey;

  const run = useCallback(
    (send: (now: HandlingState) => Promise<HandlingState>) => {
      const before = queues.get(id) ?? Promise.resolve();
      const saved = before.then(async () => {
        const now = client.getQueryData<HandlingState>(key);
        if (!now) {
          return;
        }
        try {
          client.setQueryData(key, await send(now));
          void client.invalidateQueries({ queryKey: ['crossing', id, 'landings'] });
          void client.invalidateQueries({ queryKey: ['crossing', id, 'scenes', 'survey'] });
          void client.invalidateQueries({ queryKey: ['crossing', id, 'scenes', 'marks'] });
          void client.invalidateQueries({ queryKey: ['crossings'] });
        } catch (error) {
          complain(error);
          if (error instanceof ApiError && error.status === 409) {
            await client.invalidateQueries({ queryKey: key });
          }
        }
      });
      queues.set(id, saved);
    },
    [client, id, key],
  );

  const change = useCallback(
    (edit: (steps: Step[]) => Step[]) =>
      run((now) =>
        sendJson('PUT', `/api/crossings/${id}/handling`, {
          revision: now.revision,
          steps: edit(now.steps.map((s) => s.step)),
        }),
      ),
    [run, id],
  );
  /** Accepts offers: which steps they become is the server's to say. */
  const accept = useCallback(
    (offers: Offer[]) =>
      run((now) =>
        sendJson('POST', `/api/crossings/${id}/handling/offers`, {
          revision: now.revision,
          offers,
        }),
      ),
    [run, id],
  );
  /** Binds faces of a part to a material; `null` for what is found. */
  const bind = useCallback(
    (step: string, key: string, path: string, material: string | null) =>
      run((now) =>
        sendJson('PUT', `/api/crossings/${id}/looks/${step}`, {
          revision: now.revision,
          key,
          path,
          material,
        }),
      ),
    [run, id],
  );
  /** Puts images on channels of materials; `null` takes back what was said by hand. */
  const put = useCallback(
    (puts: BenchPut[]) =>
      run((now) => sendJson('PUT', `/api/crossings/${id}/bench`, { revision: now.revision, puts })),
    [run, id],
  );
  const undo = useCallback(
    () => run(() => sendJson('POST', `/api/crossings/${id}/handling/undo`)),
    [run, id],
  );
  const redo = useCallback(
    () => run(() => sendJson('POST', `/api/crossings/${id}/handling/redo`)),
    [run, id],
  );
  return { state: query.data, change, accept, bind, put, undo, redo };
}

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef } from 'react';
import { ApiError, type HandlingState, type Offer, type Step, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { complain } from '../../shared/Notices';

/** A short id, unique enough for the steps of one handling. */
export function newStepId(): string {
  return crypto.randomUUID().slice(0, 8);
}

/** Kinds of which a handling needs only one: what the numbers mean, and where all stands. */
const SINGLE = ['sourceUnit', 'sourceUp', 'sourceFront', 'centre', 'ground'];

/**
 * The steps an offer asks for. What is set once for the whole scene is set again; other steps are
 * added, or widened to more parts when the last step does the same already.
 */
export function withOffer(steps: Step[], offer: Offer): Step[] {
  const params = offer.params as Step['params'];
  const single = SINGLE.includes(offer.kind) && offer.nodeIds.length === 0;
  if (single && steps.some((s) => s.kind === offer.kind)) {
    return steps.map((s) => (s.kind === offer.kind ? { ...s, params, enabled: true } : s));
  }
  const same = steps.find(
    (s) => s.kind === offer.kind && JSON.stringify(s.params) === JSON.stringify(params),
  );
  if (same?.enabled && same.pattern === '' && same.ofKind === '') {
    const all = same.nodeIds.length + same.parts.length === 0 || offer.nodeIds.length === 0;
    // Parts that are named already stay; those of the offer are named when they are saved.
    const wider = all
      ? { nodeIds: [], parts: [] }
      : { nodeIds: [...new Set([...same.nodeIds, ...offer.nodeIds])] };
    return steps.map((s) => (s.id === same.id ? { ...s, ...wider } : s));
  }
  const step: Step = {
    id: newStepId(),
    kind: offer.kind,
    params,
    enabled: true,
    nodeIds: offer.nodeIds,
    pattern: '',
    ofKind: '',
    parts: [],
    paramParts: {},
  };
  // What the numbers mean comes before what is done with them.
  if (offer.kind.startsWith('source')) {
    const place = steps.findIndex((s) => !s.kind.startsWith('source'));
    return place < 0 ? [...steps, step] : [...steps.slice(0, place), step, ...steps.slice(place)];
  }
  return [...steps, step];
}

/** The handling and its changes: saved at once, one after another. */
export function useHandling(id: string, ready: boolean) {
  const client = useQueryClient();
  const query = useQuery({ ...queries.handling(id), enabled: ready });
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const key = queries.handling(id).queryKey;

  const run = useCallback(
    (send: (now: HandlingState) => Promise<HandlingState>) => {
      queue.current = queue.current.then(async () => {
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
  const undo = useCallback(
    () => run(() => sendJson('POST', `/api/crossings/${id}/handling/undo`)),
    [run, id],
  );
  const redo = useCallback(
    () => run(() => sendJson('POST', `/api/crossings/${id}/handling/redo`)),
    [run, id],
  );
  return { state: query.data, change, undo, redo };
}

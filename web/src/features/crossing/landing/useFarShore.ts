import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { type Crossing, type Shore, sendJson } from '../../../api/client';
import { queries } from '../../../api/queries';
import { complain } from '../../../shared/Notices';

/** The shore that a crossing goes to, and how to send it to another. */
export function useFarShore(id: string): {
  shore: Shore | undefined;
  choose: (shore: string) => void;
} {
  const client = useQueryClient();
  const crossing = useQuery(queries.crossing(id));
  const survey = useQuery({ ...queries.survey(id), enabled: crossing.data?.state === 'ready' });
  const shores = useQuery(queries.shores());
  const wanted = crossing.data?.farShore ?? survey.data?.farShore;
  const choose = useCallback(
    (shore: string) => {
      sendJson<Crossing>('PUT', `/api/crossings/${id}/shore`, { shore })
        .then((changed) => {
          client.setQueryData(queries.crossing(id).queryKey, changed);
          return client.invalidateQueries({ queryKey: ['crossing', id, 'scenes'] });
        })
        .catch(complain);
    },
    [client, id],
  );
  return { shore: shores.data?.find((s) => s.shore.id === wanted)?.shore, choose };
}

import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Job } from '../api/client';

/** Listens to the server and lets what it names be fetched anew. */
export function useEvents() {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource('/api/events');
    source.addEventListener('job', (event) => {
      const job = JSON.parse(event.data as string) as Job;
      client.setQueryData<Job[]>(['jobs'], (jobs) =>
        jobs ? [job, ...jobs.filter((j) => j.id !== job.id)] : undefined,
      );
    });
    source.addEventListener('crossing', (event) => {
      const id = JSON.parse(`"${(event.data as string).replaceAll('"', '')}"`) as string;
      void client.invalidateQueries({ queryKey: ['crossings'] });
      // What nobody looks at just now and is still on its way is of before: it would count as new.
      void client
        .cancelQueries({ queryKey: ['crossing', id], type: 'inactive' })
        .then(() => client.invalidateQueries({ queryKey: ['crossing', id] }));
    });
    source.addEventListener('landing', (event) => {
      const id = (event.data as string).replaceAll('"', '');
      void client.invalidateQueries({ queryKey: ['crossing', id, 'landings'] });
      void client.invalidateQueries({ queryKey: ['crossings'] });
    });
    source.addEventListener('batch', () => {
      void client.invalidateQueries({ queryKey: ['batches'] });
    });
    // What happened before the stream was open, or while it was broken, was missed: fetch what
    // changes by itself when it opens, and all when it is back.
    let broken = false;
    source.onerror = () => {
      broken = true;
    };
    source.onopen = () => {
      const all = broken;
      broken = false;
      void client.invalidateQueries({ predicate: (q) => all || q.queryKey.length <= 2 });
    };
    return () => source.close();
  }, [client]);
}

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
      void client.invalidateQueries({ queryKey: ['crossing', id] });
    });
    source.addEventListener('landing', (event) => {
      const id = (event.data as string).replaceAll('"', '');
      void client.invalidateQueries({ queryKey: ['crossing', id, 'landings'] });
      void client.invalidateQueries({ queryKey: ['crossings'] });
    });
    // What happened while the stream was broken was missed: fetch all when it is back.
    let broken = false;
    source.onerror = () => {
      broken = true;
    };
    source.onopen = () => {
      if (broken) {
        broken = false;
        void client.invalidateQueries();
      }
    };
    return () => source.close();
  }, [client]);
}

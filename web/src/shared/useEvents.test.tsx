// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import { afterEach, expect, test, vi } from 'vitest';
import { useEvents } from './useEvents';

class Stream {
  static last: Stream;
  onopen: () => void = () => undefined;
  onerror: () => void = () => undefined;
  closed = false;
  private readonly listeners = new Map<string, (event: { data: string }) => void>();

  constructor(readonly path: string) {
    Stream.last = this;
  }

  addEventListener(name: string, listener: (event: { data: string }) => void) {
    this.listeners.set(name, listener);
  }

  tell(name: string, data: string) {
    this.listeners.get(name)?.({ data });
  }

  close() {
    this.closed = true;
  }
}

function Listener() {
  useEvents();
  return null;
}

function listening() {
  vi.stubGlobal('EventSource', Stream);
  const client = new QueryClient();
  const stale = vi.spyOn(client, 'invalidateQueries').mockResolvedValue();
  const page = render(
    <QueryClientProvider client={client}>
      <Listener />
    </QueryClientProvider>,
  );
  return { client, stale, page, stream: Stream.last };
}

afterEach(() => vi.unstubAllGlobals());

test('a job takes the place of what was known of it, newest first', () => {
  const { client, stream } = listening();
  client.setQueryData(['jobs'], [{ id: 'a' }, { id: 'b', fraction: 0 }]);
  stream.tell('job', JSON.stringify({ id: 'b', fraction: 0.5 }));
  expect(client.getQueryData(['jobs'])).toEqual([{ id: 'b', fraction: 0.5 }, { id: 'a' }]);
});

test('a crossing and its landings are fetched anew when they are named', () => {
  const { stale, stream } = listening();
  stream.tell('crossing', '"c1"');
  expect(stale).toHaveBeenCalledWith({ queryKey: ['crossing', 'c1'] });
  stream.tell('landing', '"c1"');
  expect(stale).toHaveBeenCalledWith({ queryKey: ['crossing', 'c1', 'landings'] });
});

test('after a break all is fetched anew, at first only lists', () => {
  const { stale, stream, page } = listening();
  const asks = () => {
    const { predicate } = stale.mock.lastCall?.[0] as unknown as {
      predicate: (q: { queryKey: string[] }) => boolean;
    };
    return predicate({ queryKey: ['crossing', 'c', 'scenes', 'near'] });
  };
  stream.onopen();
  expect(asks()).toBe(false);
  stream.onerror();
  stream.onopen();
  expect(asks()).toBe(true);
  page.unmount();
  expect(stream.closed).toBe(true);
});

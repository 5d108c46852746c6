// @vitest-environment jsdom
import { QueryClient, QueryClientProvider, QueryObserver } from '@tanstack/react-query';
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

test('a crossing and its landings are fetched anew when they are named', async () => {
  const { stale, stream } = listening();
  stream.tell('crossing', '"c1"');
  await vi.waitFor(() => expect(stale).toHaveBeenCalledWith({ queryKey: ['crossing', 'c1'] }));
  stream.tell('landing', '"c1"');
  expect(stale).toHaveBeenCalledWith({ queryKey: ['crossing', 'c1', 'landings'] });
});

test('what was on its way when a crossing was read anew is fetched once more', async () => {
  const { client, stale, stream } = listening();
  stale.mockRestore();
  const answers: ((survey: string) => void)[] = [];
  const options = {
    queryKey: ['crossing', 'c1', 'scenes', 'survey'],
    queryFn: () => new Promise<string>((answer) => answers.push(answer)),
    staleTime: 30_000,
  };
  const observer = new QueryObserver(client, options);
  const stop = observer.subscribe(() => undefined);
  answers[0]?.('old');
  await vi.waitFor(() => expect(observer.getCurrentResult().data).toBe('old'));
  stream.tell('crossing', '"c1"');
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  // The page learns that the cargo is being read, and looks away; then it is read already.
  observer.setOptions({ ...options, enabled: false });
  stream.tell('crossing', '"c1"');
  answers[1]?.('old');
  await new Promise((done) => setTimeout(done));
  observer.setOptions(options);
  await vi.waitFor(() => expect(answers).toHaveLength(3));
  answers[2]?.('new');
  await vi.waitFor(() => expect(observer.getCurrentResult().data).toBe('new'));
  stop();
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

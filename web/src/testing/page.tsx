import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, configure, render } from '@testing-library/react';
import { createElement, type ReactNode } from 'react';
import { MemoryRouter } from 'react-router-dom';
import { afterEach, vi } from 'vitest';

// A busy machine is no fault of the page.
configure({ asyncUtilTimeout: 10_000 });
vi.setConfig({ testTimeout: 30_000 });

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

/** A request that a component sent. */
export interface Sent {
  method: string;
  path: string;
  body: unknown;
}

/**
 * Draws a component as its page does, with what the server has said already; what it asks or sends
 * beyond that is noted and answered from `answers` by method and path or by path, or as not found.
 */
export function shown(
  what: ReactNode,
  known: { queryKey: readonly unknown[]; data: unknown }[] = [],
  answers: Record<string, unknown> = {},
) {
  const sent: Sent[] = [];
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => {
    const method = init?.method ?? 'GET';
    sent.push({ method, path, body: init?.body ? JSON.parse(String(init.body)) : null });
    const answer = answers[`${method} ${path}`] ?? answers[path];
    return Promise.resolve(
      new Response(JSON.stringify(answer ?? { title: 'none', detail: 'not found' }), {
        status: answer === undefined ? 404 : 200,
        headers: { 'Content-Type': 'application/json' },
      }),
    );
  });
  const client = new QueryClient({
    defaultOptions: { queries: { retry: false, staleTime: Number.POSITIVE_INFINITY } },
  });
  for (const { queryKey, data } of known) {
    client.setQueryData(queryKey, data);
  }
  const page = render(
    createElement(QueryClientProvider, { client }, createElement(MemoryRouter, null, what)),
  );
  return { ...page, sent, client };
}

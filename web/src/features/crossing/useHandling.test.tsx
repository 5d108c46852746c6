// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { queries } from '../../api/queries';
import { shown } from '../../testing/page';
import { useHandling } from './useHandling';

const state = (revision: number) => ({ revision, steps: [], canUndo: true, canRedo: false });

function Toggle() {
  const { change } = useHandling('a', true);
  return (
    <button type="button" onClick={() => change((steps) => steps)}>
      change
    </button>
  );
}

function Keys() {
  const { undo } = useHandling('a', true);
  return (
    <button type="button" onClick={undo}>
      undo
    </button>
  );
}

test('what different parts of the page save is saved one after another', async () => {
  const { sent } = shown(
    <>
      <Toggle />
      <Keys />
    </>,
    [{ queryKey: queries.handling('a').queryKey, data: state(1) }],
    {
      '/api/crossings/a/handling': state(2),
      '/api/crossings/a/handling/undo': state(3),
    },
  );
  const answer = globalThis.fetch;
  let release = () => undefined as unknown;
  globalThis.fetch = async (...args: Parameters<typeof fetch>) => {
    if (String(args[0]).endsWith('/handling') && args[1]?.method === 'PUT') {
      await new Promise((done) => {
        release = () => done(undefined);
      });
    }
    return answer(...args);
  };
  fireEvent.click(screen.getByText('change'));
  fireEvent.click(screen.getByText('undo'));
  await new Promise((done) => setTimeout(done, 50));
  expect(sent.some((s) => s.path.endsWith('/undo'))).toBe(false);
  release();
  await waitFor(() => expect(sent.some((s) => s.path.endsWith('/undo'))).toBe(true));
  expect(sent.map((s) => s.path.split('/').at(-1))).toEqual(['handling', 'undo']);
  globalThis.fetch = answer;
});

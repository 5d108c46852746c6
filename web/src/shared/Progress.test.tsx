import { renderToStaticMarkup } from 'react-dom/server';
import { expect, test } from 'vitest';
import { Progress } from './Progress';

/* ARIA 1.2 asks a name of every element with the role progressbar, and allows none on a plain div. */
test('names the bar itself, not the frame around it', () => {
  const drawn = renderToStaticMarkup(<Progress label="Reading the barge" fraction={0.25} />);
  const bar = drawn.match(/<div[^>]*role="progressbar"[^>]*>/)?.[0] ?? '';
  expect(bar).toContain('aria-label="Reading the barge"');
  expect(bar).toContain('aria-valuenow="25"');
  expect(drawn.split('aria-label')).toHaveLength(2);
});

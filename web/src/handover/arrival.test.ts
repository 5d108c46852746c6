// @vitest-environment jsdom
import { beforeEach, expect, test } from 'vitest';
import type { About } from './about';
import { arrive } from './arrival';

const BLOCK = 3000;

function about(...sizes: number[]): About {
  const side = (glbBytes: number) => ({ label: 's', from: 'f', bytes: 1, asItIs: true, glbBytes });
  return { title: 't', made: 'm', sides: sizes.map(side), proof: null };
}

/** Bytes that hardly pack, so that they take several elements. */
function noise(count: number): Uint8Array<ArrayBuffer> {
  let seed = 1;
  return Uint8Array.from({ length: count }, () => {
    seed = (seed * 48271) % 2147483647;
    return seed & 255;
  });
}

async function elements(
  bytes: Uint8Array<ArrayBuffer>,
  side: number,
): Promise<HTMLScriptElement[]> {
  const packing = new Response(bytes).body?.pipeThrough(new CompressionStream('gzip'));
  const packed = new Uint8Array(await new Response(packing).arrayBuffer());
  const all: HTMLScriptElement[] = [];
  for (let at = 0; at < packed.length; at += BLOCK) {
    const element = document.createElement('script');
    element.type = 'text/plain';
    element.dataset.side = String(side);
    const end = Math.min(packed.length, at + BLOCK);
    element.dataset.upto = String(Math.round((bytes.length * end) / packed.length));
    element.textContent = btoa(String.fromCharCode(...packed.subarray(at, end)));
    all.push(element);
  }
  return all;
}

function state(value: DocumentReadyState) {
  Object.defineProperty(document, 'readyState', { value, configurable: true });
  document.dispatchEvent(new Event('readystatechange'));
}

beforeEach(() => {
  document.body.replaceChildren();
  state('complete');
});

test('both sides come out as they were, tell how far they are, and leave the page', async () => {
  const [a, b] = [noise(20_000), noise(7_000)];
  document.body.append(...(await elements(a, 0)), ...(await elements(b, 1)));
  const told: number[] = [];
  const of = about(a.length, b.length);
  expect(new Uint8Array(await arrive(of, 0, (share) => told.push(share)))).toEqual(a);
  expect(new Uint8Array(await arrive(of, 1, () => {}))).toEqual(b);
  expect(told.length).toBeGreaterThan(3);
  expect(told).toEqual([...told].sort((x, y) => x - y));
  expect(told.at(-1)).toBe(1);
  expect(document.querySelectorAll('[data-side]')).toHaveLength(0);
});

test('what still arrives is waited for', async () => {
  state('loading');
  const bytes = noise(15_000);
  const all = await elements(bytes, 0);
  let share = 0;
  const coming = arrive(about(bytes.length), 0, (s) => {
    share = s;
  });
  for (const element of all) {
    document.body.append(element);
    await new Promise((next) => setTimeout(next, 5));
  }
  // The last one may be half there: it is not taken yet.
  expect(share).toBeLessThan(1);
  expect(document.querySelectorAll('[data-side]').length).toBeGreaterThan(0);
  state('interactive');
  expect(new Uint8Array(await coming)).toEqual(bytes);
});

test('a page that is cut short or damaged says so', async () => {
  const bytes = noise(15_000);
  const of = about(bytes.length);
  document.body.append(...(await elements(bytes, 0)).slice(0, -2));
  await expect(arrive(of, 0, () => {})).rejects.toThrow(/cut short.*15,000 bytes/);
  document.body.replaceChildren(...(await elements(noise(16_000), 0)));
  await expect(arrive(of, 0, () => {})).rejects.toThrow(/cut short or damaged/);
  const broken = await elements(bytes, 0);
  (broken[1] as HTMLElement).textContent = '%%%';
  document.body.replaceChildren(...broken);
  await expect(arrive(of, 0, () => {})).rejects.toThrow(/Ask for the file again/);
});

// @vitest-environment jsdom
import { AnimationClip, Mesh, NumberKeyframeTrack } from 'three';
import { beforeEach, expect, test, vi } from 'vitest';
import type { Asset, Morph } from './asset';
import { choice, toggle } from './dom';
import { verdict } from './facts';
import { Morphs } from './morphs';
import { Player } from './player';

beforeEach(() => {
  document.body.replaceChildren();
  window.matchMedia = () => ({ matches: true }) as MediaQueryList;
});

function morph(part: string, name: string, at = 0): Morph {
  const mesh = new Mesh();
  mesh.morphTargetInfluences = [at];
  return { part, name, at, meshes: [{ mesh, index: 0 }] };
}

const assetOf = (props: Partial<Asset>) =>
  ({ clips: [], morphs: [], choose: vi.fn(), seek: vi.fn(), ...props }) as unknown as Asset;

const clip = (name: string, seconds: number) =>
  new AnimationClip(name, seconds, [new NumberKeyframeTrack('a.b', [0], [0])]);

const weight = (m: Morph) => m.meshes[0]?.mesh.morphTargetInfluences?.[0];

test('one slider moves a shape on both sides, stays over the clip, and goes back', () => {
  const [a, b] = [morph('head', 'smile', 0.25), morph('head', 'smile', 0.25)];
  const morphs = new Morphs([assetOf({ morphs: [a] }), assetOf({ morphs: [b] })], () => {
    morphs.apply();
  });
  document.body.append(morphs.box);
  expect(morphs.box.querySelectorAll('input[type=range]')).toHaveLength(1);
  const slider = morphs.box.querySelector('input[type=range]') as HTMLInputElement;
  expect(slider.value).toBe('0.25');
  slider.value = '0.8';
  slider.dispatchEvent(new Event('input'));
  expect([weight(a), weight(b)]).toEqual([0.8, 0.8]);
  // A clip sets it anew with each picture.
  (a.meshes[0] as { mesh: Mesh }).mesh.morphTargetInfluences = [0];
  morphs.apply();
  expect(weight(a)).toBe(0.8);
  morphs.box.querySelector('button')?.click();
  expect([weight(a), weight(b)]).toEqual([0.25, 0.25]);
  expect(slider.value).toBe('0.25');
});

test('many shapes can be searched; without any there is no list', () => {
  const many = Array.from({ length: 20 }, (_, i) => morph('head', `shape ${i}`));
  const { box } = new Morphs([assetOf({ morphs: many })], () => {});
  const find = box.querySelector('input[type=search]') as HTMLInputElement;
  find.value = 'Shape 1';
  find.dispatchEvent(new Event('input'));
  const seen = [...box.querySelectorAll('label')].filter((l) => !l.hidden);
  expect(seen).toHaveLength(11);
  expect(new Morphs([assetOf({})], () => {}).box.hidden).toBe(true);
});

test('clips of both sides are played by name, for as long as the longer one', () => {
  const a = assetOf({ clips: [clip('wade', 2), clip('bow', 1)] });
  const b = assetOf({ clips: [clip('wade', 2.5)] });
  const changed = vi.fn();
  const player = new Player([a, b], ['near', 'landed'], changed);
  expect(a.choose).toHaveBeenLastCalledWith('wade');
  expect(player.box.querySelector('output')?.textContent).toBe('0.00 of 2.50 s');
  const time = player.box.querySelector('input') as HTMLInputElement;
  time.value = '1.5';
  time.dispatchEvent(new Event('input'));
  expect(b.seek).toHaveBeenLastCalledWith(1.5);
  player.step(1);
  expect(b.choose).toHaveBeenLastCalledWith('bow');
  expect(player.box.querySelector('output')?.textContent).toContain('not in what is landed');
  player.step(1);
  expect(a.choose).toHaveBeenLastCalledWith(null);
  expect(player.box.querySelector('button')?.disabled).toBe(true);
  player.step(1);
  expect(a.choose).toHaveBeenLastCalledWith('wade');
  // Who wants less motion starts it by hand.
  const play = player.box.querySelector('button') as HTMLButtonElement;
  expect(play.textContent).toBe('Play');
  play.click();
  expect(play.textContent).toBe('Stop');
  play.click();
  expect(changed).toHaveBeenCalled();
});

test('switches and lists say what they hold', () => {
  const told: unknown[] = [];
  const button = toggle('Grid', 'help', true, (on) => told.push(on));
  button.click();
  expect(button.getAttribute('aria-pressed')).toBe('false');
  const list = choice(
    'Look',
    'help',
    [
      ['a', 'A'],
      ['b', 'B'],
    ],
    'b',
    (v) => told.push(v),
  );
  expect(list.select.value).toBe('b');
  list.select.value = 'a';
  list.select.dispatchEvent(new Event('change'));
  expect(told).toEqual([false, 'a']);
  expect(list.box.textContent).toContain('Look');
});

test('the verdict lists what is not as it was, as text and never as markup', () => {
  const rows = [
    { what: '<b>Faces</b>', wanted: '4', landed: '3', note: 'gone', verdict: 'lost' as const },
  ];
  const told = verdict({ kept: 5, changed: 0, lost: 1, more: 7, rows });
  expect(told.querySelector('summary')?.className).toBe('lost');
  expect(told.textContent).toContain('<b>Faces</b>');
  expect(told.textContent).toContain('7 more');
  expect(told.querySelector('b')).toBeNull();
  const kept = verdict({ kept: 1234, changed: 0, lost: 0, more: 0, rows: [] });
  expect(kept.textContent).toBe('All 1,234 facts were kept');
});

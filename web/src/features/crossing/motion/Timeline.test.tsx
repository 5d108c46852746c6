// @vitest-environment jsdom
import { act, fireEvent, screen } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { SideView } from '../../../api/client';
import { shown } from '../../../testing/page';
import { useTime } from '../../../view3d/data/time';
import { useView } from '../../../view3d/viewState';
import { Timeline } from './Timeline';

const clip = (id: number, name: string, frames: number) => ({
  id,
  name,
  startSeconds: 1,
  endSeconds: 1 + (frames - 1) / 10,
  framesPerSecond: 10,
  frames,
  tracks: 1,
  cache: false,
});

function timeline(clips: object[], skins: object[] = []) {
  const near = { nodes: [], clips, skins } as unknown as SideView;
  return shown(<Timeline id="c" near={near} revision={1} />);
}

beforeEach(() => {
  act(() => useTime.getState().open(null));
  useTime.setState({ loop: true, speed: 1 });
  useView.setState({ pose: 'clip' });
  vi.stubGlobal('requestAnimationFrame', () => 1);
  vi.stubGlobal('cancelAnimationFrame', () => undefined);
});

const moment = () => document.querySelector('output.moment')?.textContent;

test('a cargo that neither moves nor has a rig has none', () => {
  timeline([]);
  expect(screen.queryByLabelText('Timeline')).toBeNull();
});

test('a rig without clips can be seen in its bind pose', () => {
  timeline([], [{ id: 1, joints: [] }]);
  fireEvent.change(screen.getByLabelText('Clip'), { target: { value: 'bind' } });
  expect(moment()).toBe('bind pose');
  expect(useView.getState().pose).toBe('bind');
  expect(screen.getByText<HTMLButtonElement>('Play').disabled).toBe(true);
  expect(screen.getByLabelText<HTMLSelectElement>('Lines').disabled).toBe(true);
});

test('a clip is chosen, stepped and scrubbed by frames', () => {
  timeline([clip(7, 'wade', 11), clip(8, '', 3)]);
  expect(moment()).toBe('rest pose');
  expect(screen.getByText('(no name)')).toBeTruthy();
  fireEvent.change(screen.getByLabelText('Clip'), { target: { value: '7' } });
  expect(moment()).toBe('1.00 s · frame 0 of 10');
  fireEvent.click(screen.getByLabelText('One frame on'));
  expect(moment()).toBe('1.10 s · frame 1 of 10');
  fireEvent.click(screen.getByLabelText('One frame back'));
  fireEvent.click(screen.getByLabelText('One frame back'));
  expect(moment()).toBe('1.00 s · frame 0 of 10');
  fireEvent.change(screen.getByLabelText('Frame'), { target: { value: '8' } });
  expect(moment()).toBe('1.80 s · frame 8 of 10');
});

test('keys play and step', () => {
  timeline([clip(7, 'wade', 11)]);
  fireEvent.keyDown(window, { key: 'p' });
  expect(useTime.getState().clip).toBe(7);
  expect(screen.getByText('Stop')).toBeTruthy();
  fireEvent.keyDown(window, { key: 'n' });
  expect(useTime.getState().playing).toBe(false);
  expect(moment()).toBe('1.10 s · frame 1 of 10');
  fireEvent.keyDown(window, { key: 'b' });
  expect(moment()).toBe('1.00 s · frame 0 of 10');
});

test('playing at the end begins at the start of the range', () => {
  timeline([clip(7, 'wade', 11)]);
  fireEvent.change(screen.getByLabelText('Clip'), { target: { value: '7' } });
  fireEvent.change(screen.getByLabelText('From'), { target: { value: '2' } });
  fireEvent.change(screen.getByLabelText('To'), { target: { value: '9' } });
  fireEvent.change(screen.getByLabelText('Frame'), { target: { value: '9' } });
  fireEvent.click(screen.getByText('Play'));
  expect(moment()).toBe('1.20 s · frame 2 of 10');
});

test('the ends of the range do not cross and stay inside the clip', () => {
  timeline([clip(7, 'wade', 11)]);
  fireEvent.change(screen.getByLabelText('Clip'), { target: { value: '7' } });
  fireEvent.change(screen.getByLabelText('To'), { target: { value: '5' } });
  fireEvent.change(screen.getByLabelText('From'), { target: { value: '8' } });
  expect(useTime.getState().range).toEqual([5, 5]);
  fireEvent.change(screen.getByLabelText('To'), { target: { value: '99' } });
  fireEvent.change(screen.getByLabelText('From'), { target: { value: '-4' } });
  expect(useTime.getState().range).toEqual([0, 10]);
});

test('speed and loop are kept', () => {
  timeline([clip(7, 'wade', 11)]);
  fireEvent.change(screen.getByLabelText('Speed'), { target: { value: '0.25' } });
  fireEvent.click(screen.getByLabelText('Loop'));
  expect(useTime.getState().speed).toBe(0.25);
  expect(useTime.getState().loop).toBe(false);
});

test('a clip that is gone is let go', () => {
  act(() => useTime.getState().open(clip(99, 'gone', 5)));
  timeline([clip(7, 'wade', 11)]);
  expect(useTime.getState().clip).toBeNull();
  expect(moment()).toBe('rest pose');
});

test('seconds are marked along the track', () => {
  timeline([clip(7, 'wade', 101)]);
  fireEvent.change(screen.getByLabelText('Clip'), { target: { value: '7' } });
  const ticks = [...document.querySelectorAll('.ticks i')].map((i) => Number(i.textContent));
  expect(ticks.length).toBeGreaterThan(2);
  expect(ticks.length).toBeLessThan(12);
  expect(ticks.every((t) => t >= 1 && t <= 11)).toBe(true);
});

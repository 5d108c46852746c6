import { expect, test } from 'vitest';
import { heldBack, type Spots } from './spots';

const spots: Spots = {
  seconds: [1, 2, 3],
  near: [5, 0, 0, 7, 0, 0, 9, 1, 0],
  far: [0, 0, 0, 0, 0, 0, 0, 0, 4],
};

test('what walks is held where it was at first', () => {
  expect(heldBack(spots, 'near', 1)).toEqual([0, 0, 0]);
  expect(heldBack(spots, 'near', 1.5)).toEqual([-1, 0, 0]);
  expect(heldBack(spots, 'near', 3)).toEqual([-4, -1, 0]);
  expect(heldBack(spots, 'far', 2.5)).toEqual([0, 0, -2]);
});

test('outside of the clip its ends hold, and without spots nothing is moved', () => {
  expect(heldBack(spots, 'near', 99)).toEqual([-4, -1, 0]);
  expect(heldBack(spots, 'near', -99)).toEqual([0, 0, 0]);
  expect(heldBack(null, 'near', 2)).toEqual([0, 0, 0]);
  expect(heldBack({ seconds: [0], near: [1, 1, 1], far: [1, 1, 1] }, 'far', 0)).toEqual([0, 0, 0]);
});

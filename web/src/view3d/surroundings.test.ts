import { expect, test } from 'vitest';
import { lightFrom } from './surroundings';

/** Mean light on a surface that faces a way, over all directions (Lambert's cosine). */
function lightOn(up: number): number {
  let sum = 0;
  let all = 0;
  for (let i = 0; i < 90; i++) {
    const height = ((i + 0.5) / 90 - 0.5) * Math.PI;
    for (let j = 0; j < 180; j++) {
      const azimuth = ((j + 0.5) / 180 - 0.5) * 2 * Math.PI;
      const cosine = Math.max(0, up * Math.sin(height)) * Math.cos(height);
      const [r, g, b] = lightFrom(azimuth, height, [0, 0, 0]);
      sum += cosine * (0.2126 * r + 0.7152 * g + 0.0722 * b);
      all += cosine;
    }
  }
  return sum / all;
}

test('a white surface that faces up is about white, one that faces the water much darker', () => {
  expect(lightOn(1)).toBeGreaterThan(0.8);
  expect(lightOn(1)).toBeLessThan(1.3);
  expect(lightOn(-1)).toBeGreaterThan(0.1);
  expect(lightOn(-1)).toBeLessThan(0.5);
});

test('the brightest spot is the sun, many times as bright as paper, and nothing is dark', () => {
  let most = 0;
  let least = 1;
  for (let h = -1.5; h < 1.5; h += 0.02) {
    for (let a = -3.1; a < 3.1; a += 0.02) {
      const light = lightFrom(a, h, [0, 0, 0]);
      most = Math.max(most, light[1]);
      least = Math.min(least, ...light);
    }
  }
  expect(most).toBeGreaterThan(12);
  expect(least).toBeGreaterThan(0.1);
  expect(lightFrom(-0.9, 0.85, [0, 0, 0])[1]).toBeCloseTo(most, 0);
});

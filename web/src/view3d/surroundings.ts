import {
  DataTexture,
  DataUtils,
  EquirectangularReflectionMapping,
  HalfFloatType,
  LinearFilter,
  LinearSRGBColorSpace,
  RGBAFormat,
} from 'three';

const WIDTH = 256;
const HEIGHT = 128;

type Rgb = [number, number, number];

/** Parts of the sky that light: direction, radius of the cone in radians, how soft its edge is. */
const LAMPS: { at: [number, number]; radius: number; soft: number; light: Rgb }[] = [
  // The sun behind thin cloud, high on the left; a bright bank of cloud; the glow of a lit shed.
  { at: [-0.9, 0.85], radius: 0.16, soft: 0.1, light: [34, 31, 26] },
  { at: [1.2, 0.5], radius: 0.4, soft: 0.35, light: [2.6, 2.8, 3.1] },
  { at: [2.7, 0.2], radius: 0.22, soft: 0.2, light: [3.4, 2.3, 1.3] },
];

const ZENITH: Rgb = [0.42, 0.56, 0.74];
const HORIZON: Rgb = [0.95, 0.93, 0.88];
const WATER: Rgb = [0.24, 0.29, 0.3];
const STONE: Rgb = [0.33, 0.3, 0.26];
/** Makes a white surface that faces the sky about as bright as white paper. */
const EXPOSURE = 0.5;
/** Height of the far bank above the horizon, in radians. */
const BANK = 0.07;

/**
 * Light of a direction: a quay in the morning, over water. Linear, 1 about as bright as white paper.
 *
 * @param azimuth in radians, 0 ahead
 * @param height in radians, above the horizon
 */
export function lightFrom(azimuth: number, height: number, out: Rgb): Rgb {
  const bank = BANK * (0.7 + 0.3 * Math.sin(azimuth * 3) + 0.2 * Math.sin(azimuth * 7 + 1));
  if (height > bank) {
    const up = Math.min(1, (height / Math.PI) * 2) ** 0.55;
    mix(HORIZON, ZENITH, up, out);
  } else if (height > 0) {
    mix(STONE, STONE, 0, out);
  } else {
    const down = Math.min(1, -height / 0.9);
    mix([0.6, 0.64, 0.64], WATER, down ** 0.5, out);
  }
  for (const lamp of LAMPS) {
    const cosine =
      Math.sin(height) * Math.sin(lamp.at[1]) +
      Math.cos(height) * Math.cos(lamp.at[1]) * Math.cos(azimuth - lamp.at[0]);
    const apart = Math.acos(Math.max(-1, Math.min(1, cosine)));
    const share = 1 - smooth(lamp.radius, lamp.radius + lamp.soft, apart);
    for (let c = 0; c < 3; c++) {
      out[c] = (out[c] as number) + share * (lamp.light[c] as number);
    }
  }
  for (let c = 0; c < 3; c++) {
    out[c] = (out[c] as number) * EXPOSURE;
  }
  return out;
}

function mix(a: Rgb, b: Rgb, t: number, out: Rgb) {
  for (let c = 0; c < 3; c++) {
    out[c] = (a[c] as number) * (1 - t) + (b[c] as number) * t;
  }
}

function smooth(from: number, to: number, x: number): number {
  const t = Math.max(0, Math.min(1, (x - from) / (to - from)));
  return t * t * (3 - 2 * t);
}

/** The surroundings as an image around everything; the caller disposes of it. */
export function surroundings(): DataTexture {
  const data = new Uint16Array(WIDTH * HEIGHT * 4);
  const light: Rgb = [0, 0, 0];
  const one = DataUtils.toHalfFloat(1);
  for (let y = 0; y < HEIGHT; y++) {
    const height = ((y + 0.5) / HEIGHT - 0.5) * Math.PI;
    for (let x = 0; x < WIDTH; x++) {
      lightFrom(((x + 0.5) / WIDTH - 0.5) * 2 * Math.PI, height, light);
      const at = 4 * (y * WIDTH + x);
      data[at] = DataUtils.toHalfFloat(light[0]);
      data[at + 1] = DataUtils.toHalfFloat(light[1]);
      data[at + 2] = DataUtils.toHalfFloat(light[2]);
      data[at + 3] = one;
    }
  }
  const texture = new DataTexture(data, WIDTH, HEIGHT, RGBAFormat, HalfFloatType);
  texture.mapping = EquirectangularReflectionMapping;
  texture.colorSpace = LinearSRGBColorSpace;
  texture.minFilter = LinearFilter;
  texture.magFilter = LinearFilter;
  texture.needsUpdate = true;
  return texture;
}

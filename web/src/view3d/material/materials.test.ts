import {
  DoubleSide,
  FrontSide,
  MeshBasicMaterial,
  MeshPhysicalMaterial,
  type MeshStandardMaterial,
  ShaderMaterial,
} from 'three';
import { expect, test } from 'vitest';
import type { MaterialView } from '../../api/client';
import type { Shading } from '../viewState';
import { CHANNELS, channelsOf } from './channels';
import { MaterialSet } from './materials';

const ALL = { normal: true, uv: true, colour: false };

function view(props: Partial<MaterialView>): MaterialView {
  return {
    id: 1,
    name: 'tin',
    colour: '#808080',
    opacity: 1,
    metallic: 1,
    roughness: 0.4,
    emissive: '#000000',
    emissiveStrength: 1,
    alpha: 'OPAQUE',
    doubleSided: false,
    unlit: false,
    textures: {},
    layers: {},
    missing: [],
    ...props,
  };
}

function made<T>(
  props: Partial<MaterialView>,
  { shading = 'surface' as Shading, backs = false, mirrored = true, channel = '', metres = 1 } = {},
): T {
  const views = new Map([[1, view(props)]]);
  const more = { mirrored, channel, metresPerUnit: metres };
  const set = new MaterialSet('c', views, shading, backs, () => {}, 1, null, more);
  return set.get(1, ALL, false) as T;
}

test('metal is whole where there is something to be mirrored', () => {
  expect(made<MeshStandardMaterial>({}).metalness).toBe(1);
  expect(made<MeshStandardMaterial>({}, { mirrored: false }).metalness).toBeLessThan(0.6);
  expect(made({})).not.toBeInstanceOf(MeshPhysicalMaterial);
});

test('layers come as the extensions of glTF have them, with their defaults', () => {
  const coat = made<MeshPhysicalMaterial>({
    layers: { clearcoat: [0.8], clearcoat_roughness: [0.1], sheen: [0.1, 0.2, 0.3] },
  });
  expect(coat).toBeInstanceOf(MeshPhysicalMaterial);
  expect([coat.clearcoat, coat.clearcoatRoughness]).toEqual([0.8, 0.1]);
  expect(coat.sheenColor.toArray().map((c) => Number(c.toFixed(6)))).toEqual([0.1, 0.2, 0.3]);
  expect([coat.sheen, coat.transmission, coat.ior, coat.specularIntensity]).toEqual([1, 0, 1.5, 1]);
  const glass = made<MeshPhysicalMaterial>(
    { layers: { transmission_weight: [1], thickness: [20], attenuation_distance: [50] } },
    { backs: true, metres: 0.01 },
  );
  expect([glass.transmission, glass.thickness, glass.attenuationDistance]).toEqual([1, 0.2, 0.5]);
  expect(glass.side).toBe(FrontSide);
  expect(made<MeshStandardMaterial>({}, { backs: true }).side).toBe(DoubleSide);
  const clear = made<MeshPhysicalMaterial>({ layers: { transmission_weight: [1] } });
  expect(clear.attenuationDistance).toBe(Number.POSITIVE_INFINITY);
});

test('what light does not count for is drawn without', () => {
  expect(made({ unlit: true, alpha: 'BLEND', opacity: 0.5 })).toBeInstanceOf(MeshBasicMaterial);
});

test('one channel alone has its factor and the part of the image that glTF reads', () => {
  const rough = made<ShaderMaterial>({}, { shading: 'channel', channel: 'roughness' });
  expect(rough).toBeInstanceOf(ShaderMaterial);
  expect(rough.uniforms.factor?.value.toArray()).toEqual([0.4, 0.4, 0.4]);
  expect(rough.uniforms.part?.value).toBe(1);
  expect(rough.uniforms.hasImage?.value).toBe(false);
  const base = made<ShaderMaterial>({}, { shading: 'channel', channel: 'base' });
  // #808080 is 0.2158605 in linear light (IEC 61966-2-1).
  expect(base.uniforms.factor?.value.x).toBeCloseTo(0.2158605, 6);
  expect(base.uniforms.colour?.value).toBe(true);
  const flat = made<ShaderMaterial>({}, { shading: 'channel', channel: 'normal' });
  expect(flat.uniforms.factor?.value.toArray()).toEqual([0.5, 0.5, 1]);
});

test('layers are among the channels only where some material has them', () => {
  const usual = channelsOf([view({})]).map((c) => c.id);
  expect(usual).toEqual([
    'base',
    'opacity',
    'metallic',
    'roughness',
    'normal',
    'occlusion',
    'emissive',
  ]);
  expect(channelsOf([view({ layers: { clearcoat: [1] } })]).map((c) => c.id)).toContain(
    'clearcoat',
  );
  expect(new Set(CHANNELS.map((c) => c.id)).size).toBe(CHANNELS.length);
});
